"""Stream tables of Blu-ray playlists as streams.

Source: System Description Blu-ray Disc Read-Only Format, part 3-1, stream_attributes.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction

from ...media import AudioStream, Scan, SubtitleStream, VideoStream, to_bcp47
from .mpls import ListedStream

VIDEO_CODECS = {0x01: "mpeg1video", 0x02: "mpeg2video", 0x1B: "h264", 0x20: "h264", 0x24: "hevc", 0xEA: "vc1"}
AUDIO_CODECS = {
    0x03: "mp2", 0x04: "mp2", 0x80: "pcm_bluray", 0x81: "ac3", 0x82: "dts", 0x83: "truehd", 0x84: "eac3",
    0x85: "dts", 0x86: "dts", 0xA1: "eac3", 0xA2: "dts",
}  # fmt: skip
LOSSLESS_DTS = {0x85: "dts-hd_hra", 0x86: "dts-hd_ma"}
SIZES = {
    1: (720, 480, Scan.INTERLACED), 2: (720, 576, Scan.INTERLACED), 3: (720, 480, Scan.PROGRESSIVE),
    4: (1920, 1080, Scan.INTERLACED), 5: (1280, 720, Scan.PROGRESSIVE), 6: (1920, 1080, Scan.PROGRESSIVE),
    7: (720, 576, Scan.PROGRESSIVE), 8: (3840, 2160, Scan.PROGRESSIVE),
}  # fmt: skip
FRAME_RATES = {
    1: Fraction(24000, 1001), 2: Fraction(24), 3: Fraction(25), 4: Fraction(30000, 1001),
    6: Fraction(50), 7: Fraction(60000, 1001),
}  # fmt: skip
CHANNELS = {1: 1, 3: 2, 6: 6, 12: 6}
SAMPLE_RATES = {1: 48000, 4: 96000, 5: 192000, 12: 48000, 14: 48000}
TRUEHD = 0x83
SUBTITLE_FORMATS = {0x90: "hdmv_pgs_subtitle", 0x92: "hdmv_text_subtitle"}


def video_stream(listed: Iterable[ListedStream]) -> VideoStream | None:
    """The first video stream of the table."""
    for stream in listed:
        if (codec := VIDEO_CODECS.get(stream.coding)) is None:
            continue
        width, height, scan = SIZES.get(stream.format, (1920, 1080, Scan.UNKNOWN))
        rate = FRAME_RATES.get(stream.rate, Fraction(24000, 1001))
        return VideoStream(
            codec=codec,
            width=width,
            height=height,
            # fields are counted in pairs; in standard definition the pixels are not square
            frame_rate=rate / 2 if scan is Scan.INTERLACED and rate > 30 else rate,
            sample_aspect=Fraction(16, 9) * height / width if width == 720 else Fraction(1),
            scan=scan,
            planar=True,
            # what the format allows at most; the data may ask for less of a decoder
            profile="high" if codec == "h264" else None,
            level="4.1" if codec == "h264" else None,
            stream_id=stream.packet_id,
        )
    return None


def audio_streams(listed: Iterable[ListedStream]) -> tuple[AudioStream, ...]:
    """The audio tracks; a TrueHD track is followed by the AC-3 core that discs carry under the same packet id."""
    made: list[AudioStream] = []
    for stream in listed:
        codec = AUDIO_CODECS.get(stream.coding)
        if codec is None:
            continue
        made.append(
            AudioStream(
                index=len(made),
                codec=codec,
                channels=CHANNELS.get(stream.format, 2),
                sample_rate=SAMPLE_RATES.get(stream.rate, 48000),
                language=to_bcp47(stream.language),
                profile=LOSSLESS_DTS.get(stream.coding),
                stream_id=stream.packet_id,
            )
        )
        if stream.coding == TRUEHD:
            made.append(
                replace(made[-1], index=len(made), codec="ac3", channels=min(6, made[-1].channels), is_core=True)
            )
    return tuple(made)


def subtitle_streams(listed: Iterable[ListedStream]) -> tuple[SubtitleStream, ...]:
    kept = [stream for stream in listed if stream.coding in SUBTITLE_FORMATS]
    return tuple(
        SubtitleStream(
            index=index,
            format=SUBTITLE_FORMATS[stream.coding],
            language=to_bcp47(stream.language),
            stream_id=stream.packet_id,
        )
        for index, stream in enumerate(kept)
    )
