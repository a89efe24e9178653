"""What is in a file: streams, packets, headers, how long it is."""

from __future__ import annotations

from ..media import FileData, Title
from .inputs import OWN_START, begin_at, parts_input, pipe_input, safe_file_input, video_specifier
from .start import FOLLOWED, QUIET, TALKING

AFTER_S = 3
PACKET = "packet=stream_index,pts_time,dts_time,duration_time,size"


def streams(path: str) -> list[str]:
    """Format, streams and chapters as JSON."""
    argv = ["ffprobe", "-v", "error", "-of", "json", "-show_format", "-show_streams", "-show_chapters"]
    return [*argv, *safe_file_input(path)]


def setups(path: str) -> list[str]:
    """A digest of each stream's headers outside its packets, as JSON."""
    argv = ["ffprobe", "-v", "error", "-of", "json", "-show_data_hash", "sha256"]
    return [*argv, "-show_entries", "stream=index,extradata_hash", *safe_file_input(path)]


def parts_starts() -> list[str]:
    """When the streams of a join's parts begin as the engine reads them one after the other, as JSON."""
    argv = ["ffprobe", "-v", "error", "-of", "json", "-show_entries", "stream=index,start_time:format=start_time"]
    return [*argv, *parts_input()]


def packets(path: str, interval: str | None) -> list[str]:
    """A line for each packet (``PACKET``), of the whole file or of an interval in the program's own words."""
    argv = ["ffprobe", "-v", "error", "-show_entries", PACKET, "-of", "csv=p=0"]
    return [*argv, *(("-read_intervals", interval) if interval else ()), *safe_file_input(path)]


def picture_packets(title: Title, near_s: float, length_s: float = AFTER_S) -> list[str]:
    """Packets of the picture as they are stored, as JSON: near a moment of a file, or all that is fed from a disc."""
    argv = ["ffprobe", "-v", "error", "-show_entries", "packet=pts_time,flags:format=start_time", "-of", "json"]
    if isinstance(title.data, FileData):
        source = ["-read_intervals", f"{near_s:.3f}%+{length_s:g}", *safe_file_input(title.data.path)]
    else:
        source = pipe_input(title.data.stream)
    video = title.video
    place = "V:0" if video is None else f"i:{video.stream_id:#x}" if video.stream_id is not None else f"{video.place}"
    return [*argv, "-fflags", "+genpts", "-select_streams", place, *source]


def clean_starts(title: Title, near_s: float, length_s: float) -> list[str]:
    """The pictures of H.264 that need none before them (IDR): a line each, as the engine's list of packets has it.

    A file's are those near a moment, in time from there; a disc's all that are fed, in its own time.
    """
    if isinstance(title.data, FileData):
        length = ["-t", f"{length_s:g}"]
        source = ["-nostdin", *OWN_START, *begin_at(title, near_s), *safe_file_input(title.data.path)]
    else:
        source, length = ["-copyts", "-fflags", "+genpts", *pipe_input(title.data.stream)], []
    only_idr = ["-c:v", "copy", "-copyinkf", "-bsf:v", "filter_units=pass_types=5"]
    return [*QUIET, *source, "-map", video_specifier(title), *only_idr, *length, "-f", "framecrc", "pipe:1"]


def picture_times(path: str, place: int, count: int) -> list[str]:
    """When the first decoded pictures of a stream are shown, as JSON."""
    argv = ["ffprobe", "-v", "quiet", "-select_streams", str(place), "-read_intervals", f"%+#{count}"]
    return [*argv, "-show_entries", "frame=best_effort_timestamp_time", "-of", "json", *safe_file_input(path)]


def picture_light(path: str, place: int) -> list[str]:
    """What is told of a picture's light beside it, by the container and by its first picture, as JSON."""
    argv = ["ffprobe", "-v", "quiet", "-select_streams", str(place), "-read_intervals", "%+#1"]
    sides = "stream_side_data_list:stream_side_data:frame_side_data_list:frame_side_data"
    return [*argv, "-show_entries", sides, "-of", "json", *safe_file_input(path)]


def headers(path: str) -> list[str]:
    """Every element of the first picture's headers, traced on the error output."""
    argv = [*TALKING, "-nostdin", *safe_file_input(path), "-map", "0:V:0"]
    return [*argv, "-c", "copy", "-bsf:v", "trace_headers", "-frames:v", "1", "-f", "null", "-"]


def run_through(path: str) -> list[str]:
    """Read to the end without decoding."""
    return [*FOLLOWED, *safe_file_input(path), "-map", "0:V?", "-map", "0:a?", "-c", "copy", "-f", "null", "-"]


def decode(path: str) -> list[str]:
    """Decode every picture and sound to the end."""
    argv = [*FOLLOWED, *safe_file_input(path), "-map", "0:V?", "-map", "0:a?", "-fps_mode", "passthrough"]
    return [*argv, "-f", "null", "-"]


def version(program: str) -> list[str]:
    return [program, "-hide_banner", "-version"]


def listing(what: str, program: str = "ffmpeg") -> list[str]:
    """What an engine was built with: ``-encoders``, ``-filters``."""
    return [program, "-hide_banner", what]
