"""What the media server shows: a folder for each device that is shown, in it what was made for it.

Source: UPnP ContentDirectory:1, sections 2.7.4 (Browse) and 2.8 (objects, their ids and classes).
"""

from __future__ import annotations

import xml.etree.ElementTree as ET
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import TypeVar
from urllib.parse import quote

from didl_lite import didl_lite

from rheon.core.delivery import ARTWORK_SUFFIX, beside
from rheon.core.formats import protocol_info, type_on_network
from rheon.core.naming.episodes import natural_key
from rheon.server.home.queries import output_folders

from ..actions.network import folder_name, note_seen, shown_file
from ..models import NetworkFolder, Output
from ..names import called

ROOT, ABOVE_ROOT = "0", "-1"
Told = TypeVar("Told", NetworkFolder, Output)
ALBUM_ART = ("upnp", "albumArtURI", "O")
MOST_AT_ONCE = 200
"""However many are asked for; who wants more asks again from there on."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Page:
    """What is said of one object or of those in it, as DIDL-Lite; ``total`` counts those that are not on it too."""

    text: str
    count: int
    total: int


class _Resource(didl_lite.Resource):
    """Tells its size and duration too, which the library only reads."""

    def to_xml(self) -> ET.Element:
        told = super().to_xml()
        told.attrib |= {name: value for name in ("size", "duration") if (value := getattr(self, name))}
        return told


def browse(object_id: str, base: str, *, children: bool, start: int, most: int) -> Page | None:
    """An object, or the ``children`` of a folder from the ``start``-th on; ``None`` where nothing is called so.

    ``base`` is the address of the pages for devices; ``most`` 0 asks for all.
    """
    if object_id == ROOT:
        return _page(_folders(), _folder, start, most) if children else _one(_root())
    folder_id, _, output_id = object_id.partition("/")
    folder = NetworkFolder.objects.filter(device_id=folder_id).first() if folder_id.isdigit() else None
    if folder is None:
        return None
    if not output_id:
        if not children:
            return _one(_folder(folder))
        note_seen(folder)
        return _page(shown_in(folder), lambda output: _item(folder, output, base), start, most)
    found = shown_file(folder.token, int(output_id)) if output_id.isdigit() and not children else None
    is_there = found is not None and Path(found[1].path).is_file()
    return _one(_item(folder, found[1], base)) if found and is_there else None


def shown_in(folder: NetworkFolder) -> list[Output]:
    """What was made for a device and is there, in the order of the names."""
    outputs = Output.objects.filter(is_sample=False).only("title_name", "device_ids", "path", "duration_s")
    found = [one for one in outputs if folder.device_id in one.device_ids and Path(one.path).is_file()]
    folders = output_folders()
    return sorted(found, key=lambda one: natural_key(called(one, folders)))


def address_of(folder: NetworkFolder, output: Output, path: Path, base: str) -> str:
    """Of a file, or of one that lies beside it."""
    return f"{base}n/{folder.token}/{output.pk}/{quote(path.name)}"


def _page(found: Sequence[Told], tell: Callable[[Told], didl_lite.DidlObject], start: int, most: int) -> Page:
    """Only what is on it is looked at closely."""
    wanted = [tell(one) for one in found[start : start + min(most or MOST_AT_ONCE, MOST_AT_ONCE)]]
    return Page(text=didl_lite.to_xml_string(*wanted).decode(), count=len(wanted), total=len(found))


def _one(found: didl_lite.DidlObject) -> Page:
    return Page(text=didl_lite.to_xml_string(found).decode(), count=1, total=1)


def _root() -> didl_lite.Container:
    return didl_lite.Container(
        id=ROOT, parent_id=ABOVE_ROOT, restricted="1", title="Rheon", child_count=str(NetworkFolder.objects.count())
    )


def _folders() -> list[NetworkFolder]:
    return list(NetworkFolder.objects.select_related("device").order_by("device__name"))


def _folder(folder: NetworkFolder) -> didl_lite.Container:
    return didl_lite.Container(
        id=str(folder.device_id),
        parent_id=ROOT,
        restricted="1",
        title=folder_name(folder.device),
        child_count=str(len(shown_in(folder))),
    )


def _item(folder: NetworkFolder, output: Output, base: str) -> didl_lite.DidlObject:
    path = Path(output.path)
    around = beside(path)
    artwork = next((one for one in around if one.name.endswith(ARTWORK_SUFFIX)), None)
    sound_only = type_on_network(path.suffix).startswith("audio/")
    make = didl_lite.MusicTrack if sound_only else didl_lite.VideoItem
    item = make(
        id=f"{folder.device_id}/{output.pk}",
        parent_id=str(folder.device_id),
        restricted="1",
        title=output.title_name,
        resources=list(_resources(folder, output, base, [path, *around])),
    )
    if artwork:
        # the library knows it of sound only, but it is there for whatever is played (appendix B.3)
        if ALBUM_ART not in item.didl_properties_defs:
            item.didl_properties_defs = [*item.didl_properties_defs, ALBUM_ART]
        item.album_art_uri = address_of(folder, output, artwork, base)
    return item


def _resources(folder: NetworkFolder, output: Output, base: str, paths: Sequence[Path]) -> Iterator[didl_lite.Resource]:
    """The file first, then the subtitles beside it."""
    for place, path in enumerate(paths):
        if place and path.name.endswith(ARTWORK_SUFFIX):
            continue
        yield _Resource(
            uri=address_of(folder, output, path, base),
            protocol_info=protocol_info(path.suffix),
            size=str(path.stat().st_size),
            duration=_time(output.duration_s) if not place and output.duration_s else None,
        )


def _time(seconds: float) -> str:
    """``H:MM:SS.mmm`` (UPnP ContentDirectory:1, appendix B.2.1.4)."""
    whole, thousandths = divmod(round(seconds * 1000), 1000)
    return f"{whole // 3600}:{whole // 60 % 60:02d}:{whole % 60:02d}.{thousandths:03d}"
