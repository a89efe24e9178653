"""Filter graphs: what happens to picture and sound between decoder and encoder."""

from __future__ import annotations

from ..media import rate_text
from ..planning import AudioSettings, VideoSettings

# Downmix to two channels. The centre carries the dialogue and stays the loudest part of each side; the limiter
# catches the rare sum above full scale instead of turning everything down.
CENTRE, FRONT, SURROUND = 0.74, 0.60, 0.38
PIXEL_FORMATS = {8: "yuv420p", 10: "yuv420p10le"}


def graph(made: VideoSettings, source: str, picture: str | None, text: tuple[str, int] | None) -> str:
    """The graph from pad ``source`` to ``[out]``: fields, drawn-in subtitles, cadence, size, pixel shape and format.

    ``picture`` is the pad of a picture subtitle; ``text`` is a file in the working folder and a track number in it.
    """
    steps = _fields(made)
    head = f"[{source}]{','.join(steps)}" if steps else f"[{source}]null"
    shape = made.sample_aspect
    tail = [
        f"fps={rate_text(made.frame_rate)}",
        f"scale={made.width}:{made.height}:flags=lanczos",
        f"setsar={shape.numerator}/{shape.denominator}",
    ]
    if text is not None:
        tail.append(f"subtitles=filename={text[0]}:si={text[1]}")
    tail.append(f"format={PIXEL_FORMATS[made.bit_depth]}")
    if picture is None:
        return f"{head},{','.join(tail)}[out]"
    return f"{head}[seen];[seen][{picture}]overlay=eof_action=pass,{','.join(tail)}[out]"


def _fields(made: VideoSettings) -> list[str]:
    if made.deinterlace:
        order = "tff" if made.top_field_first else "bff"
        return [f"bwdif=mode=send_frame:parity={order}:deint=all"]
    return []


def audio_filters(made: AudioSettings) -> str:
    """Gaps filled and the start aligned, then a downmix where channels go from surround to two or one."""
    steps = ["aresample=async=1:first_pts=0"]
    if made.source_channels >= 5 and made.channels <= 2:
        left = f"FL={FRONT}*FL+{CENTRE}*FC+{SURROUND}*BL+{SURROUND}*SL"
        right = f"FR={FRONT}*FR+{CENTRE}*FC+{SURROUND}*BR+{SURROUND}*SR"
        # the layout is fixed first, so that back and side channels both have a place
        steps += ["aformat=channel_layouts=7.1", f"pan=stereo|{left}|{right}", "alimiter=limit=0.95:level=0"]
    return ",".join(steps)
