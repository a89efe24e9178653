"""Decodes picture and sound in samples."""

from .access_points import CutPlaces, cut_places
from .artwork import write_artwork
from .complexity import sample_pictures
from .demand import Demand, most_demanding
from .findings import BordersFound, ScanTypeFound, SoundFound, SubtitlesFound, Survey, survey_of_whole, with_findings
from .frames import frame_jpeg, frame_times
from .levels import levels_of
from .scenes import scene_after, scene_before
from .snippets import SnippetRequest, make_snippet
from .survey import fingerprint, survey_title

__all__ = [
    "BordersFound",
    "CutPlaces",
    "Demand",
    "ScanTypeFound",
    "SnippetRequest",
    "SoundFound",
    "SubtitlesFound",
    "Survey",
    "cut_places",
    "fingerprint",
    "frame_jpeg",
    "frame_times",
    "levels_of",
    "make_snippet",
    "most_demanding",
    "sample_pictures",
    "scene_after",
    "scene_before",
    "survey_of_whole",
    "survey_title",
    "with_findings",
    "write_artwork",
]
