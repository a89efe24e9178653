"""Facts from sectors that were put together for the purpose."""

from __future__ import annotations

from fractions import Fraction

import pytest

from rheon.core.media import Scan
from rheon.core.sources.dvd.program_stream import SampleFacts, sample

SECTOR = 2048
PACK = bytes.fromhex("000001ba44000400040100 89c3f8")


def packet(payload: bytes, stream: int = 0xE0, scrambled: bool = False) -> bytes:
    flags = 0x80 | (0x30 if scrambled else 0)
    body = bytes([flags, 0, 0]) + payload
    return b"\x00\x00\x01" + bytes([stream]) + len(body).to_bytes(2) + body


def sector(payload: bytes, stream: int = 0xE0, scrambled: bool = False) -> bytes:
    return (PACK + packet(payload, stream, scrambled)).ljust(SECTOR, b"\xff")


def sequence(
    width: int, height: int, aspect: int, rate: int, *, progressive: bool = False, mpeg1: bool = False
) -> bytes:
    size = (width << 12 | height).to_bytes(3)
    head = b"\x00\x00\x01\xb3" + size + bytes([aspect << 4 | rate, 0xFF, 0xFF, 0xE0, 0x00])
    extension = b"\x00\x00\x01\xb5" + bytes([0x14, 0x80 | (0x08 if progressive else 0), 0, 1, 0, 0])
    return head if mpeg1 else head + extension


def coded_picture(*, progressive: bool, repeat: bool = False, top: bool = True) -> bytes:
    flags = (0x80 if top else 0) | (0x02 if repeat else 0)
    return b"\x00\x00\x01\xb5" + bytes([0x8F, 0xFF, 0xF3, flags, 0x80 if progressive else 0])


TAIL = bytes(32)
PAL = sequence(720, 576, 2, 3)


@pytest.mark.parametrize(
    ("pictures", "scan"),
    [
        ([coded_picture(progressive=True)] * 4, Scan.PROGRESSIVE),
        ([coded_picture(progressive=False)] * 4, Scan.INTERLACED),
        ([coded_picture(progressive=True, repeat=bool(n % 2)) for n in range(4)], Scan.TELECINED),
        ([coded_picture(progressive=True)] * 3 + [coded_picture(progressive=False)], Scan.PROGRESSIVE),
        ([coded_picture(progressive=n < 4, repeat=n in (1, 3)) for n in range(8)], Scan.MIXED),
        ([coded_picture(progressive=n > 0, repeat=n in (1, 3)) for n in range(8)], Scan.MIXED),
        ([coded_picture(progressive=n > 0, repeat=bool(n % 2)) for n in range(11)], Scan.TELECINED),
        ([], Scan.UNKNOWN),
    ],
)
def test_the_flags_of_pictures_tell_how_they_were_scanned(pictures: list[bytes], scan: Scan) -> None:
    assert sample(sector(PAL + b"".join(pictures) + TAIL)).scan is scan


def test_a_progressive_sequence_overrules_its_pictures() -> None:
    data = sequence(720, 480, 3, 1, progressive=True) + coded_picture(progressive=False) * 3 + TAIL
    facts = sample(sector(data))
    assert facts.scan is Scan.PROGRESSIVE
    assert facts.sequence is not None
    assert (facts.sequence.frame_rate, facts.sequence.display_aspect) == (Fraction(24000, 1001), Fraction(16, 9))


def test_mpeg_1_is_told_from_mpeg_2() -> None:
    found = [sample(sector(sequence(352, 288, 2, 3, mpeg1=mpeg1) + TAIL)).sequence for mpeg1 in (True, False)]
    assert [entry.codec for entry in found if entry] == ["mpeg1video", "mpeg2video"]


@pytest.mark.parametrize("payload", [sequence(0, 576, 2, 3) + TAIL, sequence(720, 576, 2, 0) + TAIL, b""])
def test_headers_without_sense_are_no_facts(payload: bytes) -> None:
    assert sample(sector(payload)).sequence is None


@pytest.mark.parametrize(("stream", "counts"), [(0xE0, True), (0xBD, True), (0xC0, True), (0xBE, False), (0xBF, False)])
def test_scrambling_is_seen_in_picture_sound_and_subtitles_only(stream: int, counts: bool) -> None:
    assert sample(sector(b"x" * 40, stream, scrambled=True)).scrambled is counts
    assert not sample(sector(b"x" * 40, stream)).scrambled


def test_scrambled_bytes_are_not_taken_for_pictures() -> None:
    facts = sample(sector(PAL + coded_picture(progressive=True) * 5 + TAIL, scrambled=True))
    assert (facts.sequence, facts.pictures) == (None, 0)


def test_samples_add_up_and_what_is_no_pack_is_passed_over() -> None:
    one = sample(sector(PAL + coded_picture(progressive=False, top=True) + TAIL) + bytes(SECTOR))
    other = sample(sector(coded_picture(progressive=False, top=False) + TAIL))
    both = one + other
    assert (both.packs, both.pictures, both.top_first) == (2, 2, 1)
    assert both.sequence == one.sequence
    assert sample(b"") == SampleFacts()


def test_a_header_split_over_two_packets_is_read_whole() -> None:
    data = PAL + coded_picture(progressive=False) + TAIL
    facts = sample(sector(data[:6]) + sector(data[6:]))
    assert facts.sequence is not None
    assert facts.sequence.height == 576
