"""Readers against input that somebody, or a scratch, has changed: no exception outside the tree, no hang, no growth.

An input is a real one with some of it changed. Its number alone decides which, so a find can be made again.
"""

from __future__ import annotations

import contextlib
import json
import random
import resource
import signal
import time
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

from rheon.core.devices import load_profile
from rheon.core.engine.probe import ProbedFile, read_probe
from rheon.core.errors import RheonError
from rheon.core.media import FileData, Title
from rheon.core.planning import DECISIONS, PinSet, PlanRequest, load_pin_set, pin_set_text, plan, read_pins
from rheon.core.sources import read_source
from rheon.core.sources.bluray.clpi import read_clip_info
from rheon.core.sources.bluray.mpls import read_playlist
from rheon.core.sources.dvd.ifo import read_manager, read_title_set
from rheon.core.sources.dvd.navigation import read_navigation
from rheon.core.sources.files.promises import header_promise
from rheon.core.sources.images.disc_files import open_image
from rheon.core.subtitles import read_subtitles, to_subrip
from rheon.demo.models import device

LONGEST_S, HANGS_S, GROWTH_BYTES = 2.0, 60.0, 300 << 20
"""Of our own computing; altogether, waiting for the engine and for a busy machine included; of memory."""

VALUES = (0, 1, 2, 3, 0x7F, 0x80, 0xFE, 0xFF)
SAID: tuple[object, ...] = (
    None,
    True,
    -1,
    0,
    1,
    2**31,
    2**64,
    10**400,
    1.5,
    -1e308,
    "",
    "0/0",
    "1/0",
    "N/A",
    "nan",
    "inf",
    "x",
    [],
    {},
    "9" * 400,
)
WORDS = (
    b"00:00:01,000 --> 00:00:02,500\nOne line\n\n",
    b"{\\an8}",
    b"<i>",
    b"\xff\xfe",
    b"-->",
    b"\0",
    "日本".encode(),
)


class Hang(BaseException):
    """An input took longer than any may."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Reader:
    """What is read, from which real inputs, and what share of all inputs it gets."""

    name: str
    seeds: tuple[bytes, ...]
    read: Callable[[bytes], object]
    share: int = 10
    mutate: Callable[[random.Random, bytes], bytes] | None = None


@dataclass(slots=True)
class Found:
    """How many inputs each reader got and how many of them it refused, and what went wrong."""

    read: Counter[str] = field(default_factory=Counter)
    refused: Counter[str] = field(default_factory=Counter)
    wrong: list[str] = field(default_factory=list)
    slowest: tuple[float, str] = (0.0, "")
    growth_bytes: int = 0


def fuzz(readers: list[Reader], count: int, first: int = 0) -> Found:
    """Give the inputs number ``first`` to ``first + count`` to the readers."""
    found, before = Found(), resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    weights = [reader.share for reader in readers]
    signal.signal(signal.SIGALRM, _hang)
    signal.signal(signal.SIGPROF, _hang)
    for number in range(first, first + count):
        rng = random.Random(number)
        reader = rng.choices(readers, weights)[0]
        data = (reader.mutate or mutated)(rng, rng.choice(reader.seeds))
        began = time.process_time()
        signal.setitimer(signal.ITIMER_PROF, LONGEST_S)
        signal.setitimer(signal.ITIMER_REAL, HANGS_S)
        try:
            reader.read(data)
        except RheonError:
            found.refused[reader.name] += 1
        except (Exception, Hang) as error:
            found.wrong.append(f"{reader.name} input {number}: {error!r}")
        finally:
            signal.setitimer(signal.ITIMER_PROF, 0)
            signal.setitimer(signal.ITIMER_REAL, 0)
        found.read[reader.name] += 1
        found.slowest = max(found.slowest, (time.process_time() - began, f"{reader.name} input {number}"))
    found.growth_bytes = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before) * 1024
    return found


def _hang(*_: object) -> None:
    raise Hang


def mutated(rng: random.Random, data: bytes) -> bytes:
    """Bytes set, numbers made extreme, pieces cut out, doubled, moved, or the end cut off."""
    made = bytearray(data)
    for _ in range(rng.choice((1, 1, 2, 4, 16))):
        at, size = rng.randrange(len(made) or 1), rng.choice((1, 2, 4, 8))
        what = rng.random()
        if what < 0.45:
            made[at : at + 1] = bytes([rng.choice(VALUES) if rng.random() < 0.5 else rng.randrange(256)])
        elif what < 0.7:
            made[at : at + size] = rng.choice((bytes(size), b"\xff" * size, b"\x7f" + b"\xff" * (size - 1)))
        elif what < 0.8:
            del made[at : at + rng.randrange(1, 64)]
        elif what < 0.9:
            made[at:at] = made[at : at + rng.randrange(1, 64)]
        else:
            del made[at:]
    return bytes(made)


def mutated_document(rng: random.Random, data: bytes) -> bytes:
    """A JSON document with some of its values replaced, taken out, or put where another kind was."""
    document = json.loads(data)
    for _ in range(rng.choice((1, 2, 4, 12))):
        if not (places := list(_places(document))):
            break
        holder, key = rng.choice(places)
        if rng.random() < 0.15:
            del holder[key]  # type: ignore[arg-type]  # each holder comes with a key of its kind
        else:
            holder[key] = rng.choice(SAID)  # type: ignore[index]
    return json.dumps(document).encode()


def _places(value: object) -> Iterator[tuple[dict[str, object] | list[object], str | int]]:
    if isinstance(value, dict | list):
        for key in value if isinstance(value, dict) else range(len(value)):
            yield value, key
            yield from _places(value[key])


def some_pins(rng: random.Random, data: bytes) -> bytes:
    """A few decisions set by hand, to values that may mean something or not."""
    said = [
        *map(str, SAID),
        "720",
        "640x360",
        "copy",
        "h264",
        "aac",
        "none",
        "0",
        "average 800",
        "21",
        "drawn",
        "mp4",
        "25",
    ]
    return json.dumps({key: rng.choice(said) for key in rng.sample(sorted(DECISIONS), rng.choice((1, 2, 3)))}).encode()


def mutated_text(rng: random.Random, data: bytes) -> bytes:
    made = mutated(rng, data)
    for _ in range(rng.randrange(3)):
        at = rng.randrange(len(made) + 1)
        made = made[:at] + rng.choice(WORDS) * rng.choice((1, 1, 50)) + made[at:]
    return made


def readers(media: Path, work: Path) -> list[Reader]:
    """Every reader of what lies on discs, in files and in documents, with the demo's own data as real inputs."""
    dvd, bluray = media / "MARRAM_NIGHTS" / "VIDEO_TS", media / "HERON_REACH" / "BDMV"
    tables = tuple(path.read_bytes() for path in sorted(dvd.glob("VTS_*.IFO")))
    manager = (dvd / "VIDEO_TS.IFO").read_bytes()
    playlists = tuple(path.read_bytes() for path in sorted((bluray / "PLAYLIST").glob("*.mpls")))
    clips = tuple(path.read_bytes() for path in sorted((bluray / "CLIPINF").glob("*.clpi")))
    image = (media / "LANTERN_STREET_S1.iso").read_bytes()[: 600 << 10]
    words = (WORDS[0] * 20, b"WEBVTT\n\n" + WORDS[0].replace(b",", b".") * 9, ASS)
    texts = Reader(name="subtitles", seeds=words, read=_subtitles, mutate=mutated_text, share=12)
    return [
        Reader(name="title sets", seeds=tables, read=read_title_set, share=14),
        Reader(name="disc manager", seeds=(manager,), read=read_manager, share=5),
        Reader(name="playlists", seeds=playlists, read=read_playlist),
        Reader(name="clip tables", seeds=clips, read=read_clip_info),
        Reader(name="navigation packs", seeds=(_pack(dvd),), read=read_navigation, share=5),
        Reader(name="file systems", seeds=(image,), read=_written(work / "disc.iso", open_image), share=3),
        Reader(name="DVD folders", seeds=tables, read=_dvd(work, manager, dvd), share=6),
        Reader(name="Blu-ray folders", seeds=playlists, read=_bluray(work, bluray), share=6),
        Reader(name="probe documents", seeds=PROBED, read=_probed, mutate=mutated_document, share=18),
        Reader(name="file headers", seeds=_heads(media), read=_written(work / "head", header_promise), share=3),
        texts,
        Reader(name="profiles", seeds=_profiles(), read=_text(load_profile), mutate=mutated_document, share=6),
        Reader(name="sets of pins", seeds=(PINS,), read=_text(load_pin_set), mutate=mutated_document, share=4),
        Reader(name="pins", seeds=(b"{}",), read=_pinned, mutate=some_pins, share=8),
    ]


def media_readers(media: Path, work: Path) -> list[Reader]:
    """Whole small files through scan and plan: here the engine reads too, a tenth of a second each."""
    return [
        Reader(name=path.suffix[1:], seeds=(path.read_bytes(),), read=_whole(work / f"film{path.suffix}"))
        for path in sorted((media / "camera").iterdir())
    ]


def _text(read: Callable[[str], object]) -> Callable[[bytes], object]:
    return lambda data: read(data.decode(errors="surrogateescape"))


def _subtitles(data: bytes) -> str:
    return to_subrip(read_subtitles(data))


def _written(path: Path, read: Callable[[Path], object]) -> Callable[[bytes], object]:
    def read_written(data: bytes) -> object:
        path.write_bytes(data)
        return read(path)

    return read_written


def _pack(dvd: Path) -> bytes:
    return (dvd / "VTS_01_1.VOB").read_bytes()[:2048]


def _heads(media: Path) -> tuple[bytes, ...]:
    return tuple(path.read_bytes()[: 64 << 10] for path in (media / "camera").glob("*.avi"))


def _profiles() -> tuple[bytes, ...]:
    return tuple(device(name).model_dump_json().encode() for name in ("wren-6", "gannet-43", "sound-only"))


def _dvd(work: Path, manager: bytes, dvd: Path) -> Callable[[bytes], object]:
    folder = work / "DVD" / "VIDEO_TS"
    folder.mkdir(parents=True)
    (folder / "VIDEO_TS.IFO").write_bytes(manager)
    (folder / "VTS_01_1.VOB").write_bytes((dvd / "VTS_01_1.VOB").read_bytes()[: 256 << 10])
    return _written(folder / "VTS_01_0.IFO", lambda path: _planned(read_source(path.parent).titles))


def _bluray(work: Path, bluray: Path) -> Callable[[bytes], object]:
    folder = work / "BLURAY" / "BDMV"
    for part in ("PLAYLIST", "CLIPINF", "STREAM"):
        (folder / part).mkdir(parents=True)
    for path in (bluray / "CLIPINF").iterdir():
        (folder / "CLIPINF" / path.name).write_bytes(path.read_bytes())
        stream = bluray / "STREAM" / f"{path.stem}.m2ts"
        (folder / "STREAM" / stream.name).write_bytes(stream.read_bytes()[: 192 << 8])
    return _written(folder / "PLAYLIST" / "00001.mpls", lambda path: _planned(read_source(folder.parent).titles))


def _whole(path: Path) -> Callable[[bytes], object]:
    return _written(path, lambda path: _planned(read_source(path).titles))


def _probed(data: bytes) -> object:
    return _planned((_title(read_probe(json.loads(data))),))


def _title(found: ProbedFile) -> Title:
    return Title(
        number=1,
        duration_s=found.duration_s,
        size_bytes=found.size_bytes,
        data=FileData(path="x"),
        container=found.container,
        video=found.video,
        audio=found.audio,
        subtitles=found.subtitles,
        chapters=found.chapters,
    )


def _planned(titles: tuple[Title, ...]) -> object:
    """Whatever was read can be planned or is refused with a sentence."""
    for title in titles[:2]:
        for name in ("wren-6", "faithful-copy"):
            with contextlib.suppress(RheonError):
                plan(PlanRequest(title=title, devices=(device(name),), name=title.name or "x"))
    return titles


def _pinned(data: bytes) -> object:
    title = _title(read_probe(json.loads(PROBED[0])))
    return plan(PlanRequest(title=title, devices=(device("wren-6"),), name="x", pins=read_pins(json.loads(data))))


ASS = (
    b"[Script Info]\nScriptType: v4.00+\n\n[V4+ Styles]\nFormat: Name, Fontname, Fontsize\nStyle: Default,Sans,20\n\n"
    b"[Events]\nFormat: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n"
    b"Dialogue: 0,0:00:01.00,0:00:02.00,Default,,0,0,0,,One {\\i1}line\n"
)
PROBED = tuple(
    json.dumps(document).encode()
    for document in (
        {
            "streams": [
                {
                    "index": 0,
                    "codec_name": "h264",
                    "profile": "High",
                    "codec_type": "video",
                    "codec_tag_string": "avc1",
                    "width": 1280,
                    "height": 720,
                    "sample_aspect_ratio": "1:1",
                    "pix_fmt": "yuv420p",
                    "level": 40,
                    "color_space": "bt709",
                    "field_order": "progressive",
                    "r_frame_rate": "25/1",
                    "avg_frame_rate": "25/1",
                    "duration": "20.0",
                    "bit_rate": "2000000",
                    "disposition": {"attached_pic": 0},
                    "tags": {"language": "und"},
                    "side_data_list": [{"rotation": -90}],
                },
                {
                    "index": 1,
                    "codec_name": "aac",
                    "profile": "LC",
                    "codec_type": "audio",
                    "sample_rate": "48000",
                    "channels": 2,
                    "bit_rate": "128000",
                    "tags": {"language": "eng", "title": "Commentary"},
                    "disposition": {"comment": 1},
                },
                {"index": 2, "codec_name": "subrip", "codec_type": "subtitle", "tags": {"language": "spa"}},
            ],
            "chapters": [{"start_time": "0.0", "tags": {"title": "One"}}, {"start_time": "10.0"}],
            "format": {
                "format_name": "matroska,webm",
                "start_time": "0.0",
                "duration": "20.0",
                "size": "5000000",
                "tags": {"title": "A film", "DATE": "1999"},
            },
        },
        {
            "streams": [{"codec_type": "audio", "codec_name": "mp3", "channels": 2, "sample_rate": "44100"}],
            "format": {"format_name": "mp3", "duration": "3.0", "size": "48000"},
        },
    )
)
PINS = pin_set_text(
    PinSet(name="x", pins=dict.fromkeys([key for key in DECISIONS if not DECISIONS[key].own], "1"))
).encode()
