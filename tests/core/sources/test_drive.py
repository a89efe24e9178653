"""Drives through one interface: a device path, here an image, and what is none."""

from __future__ import annotations

from pathlib import Path

import pytest

from rheon.core.errors import SourceError
from rheon.core.sources import read_source
from rheon.core.sources.images.drive import Changer, DeviceDrive, DriveState, open_drive
from rheon.demo import scenario


def test_a_device_path_with_a_disc_is_ready_and_read_as_it_is(media: Path) -> None:
    drive = open_drive(str(media / f"{scenario.SERIES_LABEL}.iso"))
    assert isinstance(drive, DeviceDrive)
    status = drive.status()
    assert status.state is DriveState.READY
    assert len(read_source(Path(status.path or "")).titles) == 4
    assert not isinstance(drive, Changer), "discs are put into it by hand"


def test_what_is_no_disc_is_unreadable_and_no_drive_is_absent(tmp_path: Path) -> None:
    noise = tmp_path / "noise"
    noise.write_bytes(bytes(100_000))
    assert open_drive(str(noise)).status().state is DriveState.UNREADABLE
    assert open_drive(str(tmp_path / "sr0")).status().state is DriveState.ABSENT
    with pytest.raises(SourceError):
        open_drive("rheon.nowhere:x")
