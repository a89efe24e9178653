"""The one door to ffmpeg and ffprobe: find, run, follow, stop."""

from .abilities import FILTERS, engine_encoders, engine_filters, vmaf_engine
from .probe import ProbedFile, probe
from .process import Command, Feed, Finished, available, limit_memory, run, stream
from .steering import awaited, never, stand_by, steered
from .tools import MAX_PIXELS, parse_version, require
from .work_clock import WorkClock

__all__ = [
    "FILTERS",
    "MAX_PIXELS",
    "Command",
    "Feed",
    "Finished",
    "ProbedFile",
    "WorkClock",
    "available",
    "awaited",
    "engine_encoders",
    "engine_filters",
    "limit_memory",
    "never",
    "parse_version",
    "probe",
    "require",
    "run",
    "stand_by",
    "steered",
    "stream",
    "vmaf_engine",
]
