"""Decodes picture and sound in samples."""

from .access_points import CutPlaces, cut_places
from .artwork import Still, cover_jpeg, frame_picture, jpeg_in_file, propose_stills, read_picture, shaped_jpeg
from .complexity import sample_pictures
from .demand import Demand, most_demanding
from .even_chapters import even_chapters
from .findings import BordersFound, ScanTypeFound, SoundFound, SubtitlesFound, Survey, survey_of_whole, with_findings
from .frames import Care, frame_jpeg, frame_times
from .levels import levels_of
from .scenes import scene_after, scene_before
from .snippets import SnippetRequest, make_snippet
from .survey import fingerprint, survey_title

__all__ = [
    "BordersFound",
    "Care",
    "CutPlaces",
    "Demand",
    "ScanTypeFound",
    "SnippetRequest",
    "SoundFound",
    "Still",
    "SubtitlesFound",
    "Survey",
    "cover_jpeg",
    "cut_places",
    "even_chapters",
    "fingerprint",
    "frame_jpeg",
    "frame_picture",
    "frame_times",
    "jpeg_in_file",
    "levels_of",
    "make_snippet",
    "most_demanding",
    "propose_stills",
    "read_picture",
    "sample_pictures",
    "scene_after",
    "scene_before",
    "shaped_jpeg",
    "survey_of_whole",
    "survey_title",
    "with_findings",
]
