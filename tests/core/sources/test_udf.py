"""UDF images beyond what the authoring tool writes: metadata partitions, fragments, and damage."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from rheon.core.sources.images.udf import NotUdf, UdfImage
from rheon.demo import scenario

SECTOR = 2048


def sectors_of(image: Path) -> bytearray:
    return bytearray(image.read_bytes())


def word(data: bytearray, at: int, length: int = 4) -> int:
    return int.from_bytes(data[at : at + length], "little")


def put(data: bytearray, at: int, value: int, length: int = 4) -> None:
    data[at : at + length] = value.to_bytes(length, "little")


def with_metadata_partition(data: bytearray) -> bytearray:
    """The same volume with its directories reached through a metadata file of two runs, as Blu-ray images have it.

    Partition 1 becomes a metadata partition whose blocks are those of partition 0 in the order of the metadata
    file's runs: first the blocks from ``SPLIT`` on, then those before it.
    """
    main = word(data, 256 * SECTOR + 20)
    start = volume = 0
    for sector in range(main, main + 16):
        at = sector * SECTOR
        kind = word(data, at, 2)
        if kind == 5:
            start = word(data, at + 188)
        if kind == 6:
            volume = at
    split, length = 5, 400
    file_block = len(data) // SECTOR - start
    entry = bytearray(SECTOR)
    put(entry, 0, 261, 2)
    entry[27] = 250
    put(entry, 56, (split + length) * SECTOR, 8)
    put(entry, 172, 16)
    for place, (blocks, first) in enumerate([(length, split), (split, 0)]):
        put(entry, 176 + 8 * place, blocks * SECTOR)
        put(entry, 180 + 8 * place, first)
    made = data + entry
    put(made, volume + 268, 2)
    metadata = bytearray(64)
    metadata[0], metadata[1] = 2, 64
    metadata[5:28] = b"*UDF Metadata Partition"
    put(metadata, 40, file_block)
    made[volume + 446 : volume + 446 + 64] = metadata

    def moved(block: int) -> int:
        return block - split if block >= split else length + block

    root_set = word(made, volume + 252)
    put(made, volume + 252, moved(root_set))
    put(made, volume + 256, 1, 2)
    root = (start + root_set) * SECTOR + 400
    root_entry = (start + word(made, root + 4)) * SECTOR
    put(made, root + 4, moved(word(made, root + 4)))
    put(made, root + 8, 1, 2)
    # short descriptors count in the partition of their own entry
    extent = root_entry + 176 + word(made, root_entry + 168)
    put(made, extent + 4, moved(word(made, extent + 4)))
    return made


@pytest.fixture(scope="module")
def image(media: Path) -> Path:
    return media / f"{scenario.SERIES_LABEL}.iso"


def listing(path: Path) -> dict[str, tuple[tuple[int, int], ...]]:
    with path.open("rb") as handle:
        return {name: file.runs for name, file in UdfImage(handle).files(("VIDEO_TS",))}


def test_directories_are_found_through_a_metadata_partition(image: Path, tmp_path: Path) -> None:
    plain = sectors_of(image)
    changed = tmp_path / "metadata.iso"
    changed.write_bytes(with_metadata_partition(plain))
    with changed.open("rb") as handle:
        opened = UdfImage(handle)
        assert len(opened._maps) == 2
        assert [name for name in opened.folders() if name == "VIDEO_TS"] == ["VIDEO_TS"]
    # inside the partition's own directory, places still name partition 0: the data are where they were
    assert listing(changed) == listing(image)


def test_what_is_no_udf_is_refused(tmp_path: Path) -> None:
    for name, data in (
        ("short", b"x"),
        ("zeros", bytes(400 * SECTOR)),
        ("anchor", bytes(256 * SECTOR) + b"\2\0" + bytes(SECTOR)),
    ):
        path = tmp_path / name
        path.write_bytes(data)
        with path.open("rb") as handle, pytest.raises(NotUdf):
            UdfImage(handle)


@settings(max_examples=150)
@given(st.data())
def test_damaged_descriptors_are_read_or_refused_and_never_read_for_ever(image: Path, data: st.DataObject) -> None:
    import io

    with image.open("rb") as handle:
        content = bytearray(handle.read(600 * SECTOR))
    places = st.one_of(st.integers(256 * SECTOR, 290 * SECTOR), st.integers(30 * SECTOR, 60 * SECTOR))
    for at, value in data.draw(st.lists(st.tuples(places, st.integers(0, 255)), max_size=20)):
        content[at] = value
    try:
        opened = UdfImage(io.BytesIO(bytes(content)))
        found = list(opened.files(("VIDEO_TS", "BDMV")))
    except NotUdf:
        return
    assert opened.bytes_read < 64 << 20
    assert len(found) < 20_000
