"""What a DVD title's tables and samples say of its picture, sound, words and chapters."""

from __future__ import annotations

from fractions import Fraction

from ...media import (
    AudioStream,
    Chapter,
    Forced,
    Purpose,
    SubtitlePurpose,
    SubtitleStream,
    VideoStream,
    to_bcp47,
)
from .ifo import ProgramChain, TitleSetTables
from .program_stream import SampleFacts

STREAM_BASES = {"ac3": 0x80, "dts": 0x88, "pcm_dvd": 0xA0, "mp2": 0x1C0}
SUBPICTURE_BASE = 0x20
VIDEO_STREAM = 0x1E0
# code extensions of the attributes: (DVD-Video, part 3, VTS_AST_ATR and VTS_SPST_ATR)
SOUND_PURPOSES = {
    1: Purpose.MAIN, 2: Purpose.DESCRIPTION, 3: Purpose.COMMENTARY, 4: Purpose.COMMENTARY,
}  # fmt: skip
SUBTITLE_PURPOSES = {
    1: SubtitlePurpose.MAIN, 2: SubtitlePurpose.LARGE, 3: SubtitlePurpose.CHILDREN,
    5: SubtitlePurpose.CAPTIONS, 6: SubtitlePurpose.CAPTIONS, 7: SubtitlePurpose.CAPTIONS,
    13: SubtitlePurpose.COMMENTARY, 14: SubtitlePurpose.COMMENTARY, 15: SubtitlePurpose.COMMENTARY,
}  # fmt: skip
FORCED_CODE = 9


def video_stream(tables: TitleSetTables, facts: SampleFacts) -> VideoStream:
    """The picture: measured where a sequence header was seen, else as the tables say."""
    seen = facts.sequence
    aspect = Fraction(16, 9) if tables.wide else Fraction(4, 3)
    width = seen.width if seen else 720
    height = seen.height if seen else 576 if tables.pal else 480
    rate = Fraction(25) if tables.pal else Fraction(30000, 1001)
    return VideoStream(
        codec=seen.codec if seen else "mpeg2video",
        width=width,
        height=height,
        frame_rate=seen.frame_rate if seen else rate,
        sample_aspect=aspect * height / width,
        scan=facts.scan,
        top_field_first=facts.top_first * 2 >= facts.pictures,
        planar=True,
        letterboxed=tables.letterboxed,
        stream_id=VIDEO_STREAM,
    )


def audio_streams(tables: TitleSetTables, chain: ProgramChain) -> tuple[AudioStream, ...]:
    """The declared tracks that this chain has, in their declared order."""
    kept = [
        (tables.audio[slot], stream) for slot, stream in sorted(chain.audio_streams.items()) if slot < len(tables.audio)
    ]
    return tuple(
        AudioStream(
            index=index,
            codec=declared.codec,
            channels=declared.channels,
            sample_rate=declared.sample_rate,
            language=to_bcp47(declared.language),
            purpose=SOUND_PURPOSES.get(declared.purpose_code, Purpose.UNKNOWN),
            stream_id=STREAM_BASES.get(declared.codec, 0x80) + stream,
        )
        for index, (declared, stream) in enumerate(kept)
    )


def subtitle_streams(tables: TitleSetTables, chain: ProgramChain) -> tuple[SubtitleStream, ...]:
    kept = [
        (tables.subpictures[slot], stream)
        for slot, stream in sorted(chain.subpicture_streams.items())
        if slot < len(tables.subpictures)
    ]
    return tuple(
        SubtitleStream(
            index=index,
            format="dvd_subtitle",
            language=to_bcp47(declared.language),
            purpose=SUBTITLE_PURPOSES.get(declared.purpose_code, SubtitlePurpose.UNKNOWN),
            forced=Forced.ALL if declared.purpose_code == FORCED_CODE else Forced.UNKNOWN,
            stream_id=SUBPICTURE_BASE + stream,
        )
        for index, (declared, stream) in enumerate(kept)
    )


def chapter_starts(tables: TitleSetTables, marks: tuple[tuple[int, int], ...]) -> tuple[Chapter, ...]:
    """Chapter starts: the first cell of the program that each mark names, counted over the title's chains."""
    chapters: list[Chapter] = []
    before = 0.0
    current: int | None = None
    for number, program in marks:
        chain = tables.chains.get(number)
        if chain is None or not 1 <= program <= len(chain.program_cells):
            continue
        if current is not None and number != current:
            before += sum(cell.duration_s for cell in tables.chains[current].cells)
        current = number
        within = sum(cell.duration_s for cell in chain.cells[: chain.program_cells[program - 1]])
        chapters.append(Chapter(number=len(chapters) + 1, start_s=round(before + within, 3)))
    return tuple(chapters)
