"""Chapters that people bring: lists in the open forms in which they are written, put onto a title."""

from .entries import Listed
from .lists import LARGEST_LIST, MOST_CHAPTERS, ChapterList, read_list
from .placing import Placed, by_pattern, placed, plain
from .times import clock_s

__all__ = [
    "LARGEST_LIST",
    "MOST_CHAPTERS",
    "ChapterList",
    "Listed",
    "Placed",
    "by_pattern",
    "clock_s",
    "placed",
    "plain",
    "read_list",
]
