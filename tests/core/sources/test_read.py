"""What is recognised as what, and from where."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest
from tests.instruments.engine import output_of

from rheon.core.errors import EmptyDisc, NotASource, SourceError
from rheon.core.formats import is_text
from rheon.core.media import FileData, Source
from rheon.core.sources import READERS, read_source
from rheon.core.sources.images import disc_files
from rheon.core.sources.images.disc_files import is_image, open_image


def reader_of(path: Path) -> str | None:
    return next((reader.name for reader in READERS if reader.recognises(path)), None)


def test_each_kind_of_source_has_its_reader(media: Path, tmp_path: Path) -> None:
    (tmp_path / "folder").mkdir()
    assert [
        reader_of(path)
        for path in (
            media / "MARRAM_NIGHTS",
            media / "MARRAM_NIGHTS" / "VIDEO_TS",
            media / "LANTERN_STREET_S1.iso",
            media / "camera" / "Kite day.mp4",
            tmp_path / "folder",
        )
    ] == ["DVD folder", "DVD folder", "disc image", "file", None]


def test_a_disc_is_the_same_by_its_folder_and_by_the_folder_inside(media: Path, film_disc: Source) -> None:
    inner = read_source(media / "MARRAM_NIGHTS" / "VIDEO_TS")
    assert inner.label == film_disc.label
    assert inner.titles == film_disc.titles


def test_an_image_is_known_by_its_content_whatever_it_is_called(
    media: Path, tmp_path: Path, series_disc: Source
) -> None:
    odd = tmp_path / "backup.img"
    odd.symlink_to(media / "LANTERN_STREET_S1.iso")
    assert is_image(odd)
    found = read_source(odd)
    assert [title.duration_s for title in found.titles] == [title.duration_s for title in series_disc.titles]
    assert not is_image(media / "camera" / "Kite day.mp4")


def test_an_image_s_files_lie_where_its_bytes_are(media: Path) -> None:
    image = open_image(media / "LANTERN_STREET_S1.iso")
    assert {"VIDEO_TS.IFO", "VIDEO_TS.BUP", "VTS_01_0.IFO", "VTS_01_1.VOB"} <= set(image.runs)
    assert image.read("VIDEO_TS.IFO", 0, 12) == b"DVDVIDEO-VMG"
    assert image.read("VTS_01_0.IFO", 0, 12) == b"DVDVIDEO-VTS"
    assert image.read("VTS_01_1.VOB", 0, 4) == b"\x00\x00\x01\xba"
    assert image.read("VTS_01_0.IFO", 10**9) == b""
    assert image.bytes_read == 28


def test_loose_files_keep_their_names_tracks_and_title(media: Path) -> None:
    regatta = read_source(media / "camera" / "Regatta, two languages.mkv")
    title = regatta.titles[0]
    assert (regatta.label, regatta.kind, regatta.form, title.container) == ("Regatta", "files", "file", "matroska")
    assert isinstance(title.data, FileData)
    assert Path(title.data.path).is_absolute()
    assert [track.language for track in title.audio] == ["en", "es"]
    assert is_text(title.subtitles[0])
    launch = read_source(media / "camera" / "launch of the ferry.avi")
    assert (launch.label, launch.titles[0].role) == ("launch of the ferry", "feature")


def test_links_are_followed_to_where_they_lead(media: Path, tmp_path: Path) -> None:
    link = tmp_path / "link.mp4"
    link.symlink_to(media / "camera" / "Kite day.mp4")
    data = read_source(link).titles[0].data
    assert isinstance(data, FileData)
    assert data.path == str(media / "camera" / "Kite day.mp4")


def test_a_disc_with_only_some_of_its_title_sets_keeps_those(disc_copy: Path) -> None:
    for path in (disc_copy / "VIDEO_TS").glob("VTS_02*"):
        path.unlink()
    found = read_source(disc_copy)
    assert [title.number for title in found.titles] == [1]
    assert [problem.title for problem in found.problems] == [2, 3, 4, 5, 6]


def test_a_disc_without_its_data_keeps_its_tables_and_says_so(disc_copy: Path) -> None:
    (disc_copy / "VIDEO_TS" / "VTS_01_1.VOB").unlink()
    found = read_source(disc_copy)
    assert found.titles[0].fault == "cut_off"
    assert len(found.titles[0].chapters) == 6


def test_a_folder_with_only_data_is_an_empty_disc(disc_copy: Path) -> None:
    for path in [*(disc_copy / "VIDEO_TS").glob("*.IFO"), *(disc_copy / "VIDEO_TS").glob("*.BUP")]:
        path.unlink()
    with pytest.raises(EmptyDisc, match="none of the tables"):
        read_source(disc_copy)


def test_an_image_without_a_video_disc_is_refused(tmp_path: Path) -> None:
    folder = tmp_path / "papers"
    folder.mkdir()
    (folder / "letter.txt").write_text("Dear film circle")
    image = tmp_path / "papers.iso"
    output_of(["genisoimage", "-quiet", "-o", str(image), str(folder)])
    with pytest.raises(NotASource, match="holds no video disc"):
        read_source(image)


def test_what_the_system_refuses_is_said_in_its_words(
    media: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    copy = tmp_path / "a.iso"
    shutil.copy(media / "camera" / "Kite day.mp4", copy)

    def refused(path: Path, *args: object, **more: object) -> None:
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr(disc_files, "open_inside", refused)
    with pytest.raises(SourceError, match=r"may not be read.*permissions"):
        read_source(copy)
