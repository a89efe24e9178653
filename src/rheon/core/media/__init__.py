"""The values everything speaks in."""

from .language import language_name, same_language, to_bcp47
from .rates import FILM, NTSC, PAL, aspect_text, parse_fraction, rate_text
from .samples import Samples
from .source import (
    SECTOR_BYTES,
    Cell,
    CellData,
    Chapter,
    Extent,
    FileData,
    Problem,
    Reason,
    Role,
    Share,
    Source,
    SourceForm,
    SourceKind,
    Title,
)
from .streams import AudioStream, Forced, Purpose, Scan, SubtitleStream, VideoStream

__all__ = [
    "FILM",
    "NTSC",
    "PAL",
    "SECTOR_BYTES",
    "AudioStream",
    "Cell",
    "CellData",
    "Chapter",
    "Extent",
    "FileData",
    "Forced",
    "Problem",
    "Purpose",
    "Reason",
    "Role",
    "Samples",
    "Scan",
    "Share",
    "Source",
    "SourceForm",
    "SourceKind",
    "SubtitleStream",
    "Title",
    "VideoStream",
    "aspect_text",
    "language_name",
    "parse_fraction",
    "rate_text",
    "same_language",
    "to_bcp47",
]
