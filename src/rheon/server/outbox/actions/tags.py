"""Other tags, and another name, for a file that was made."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path

from django.db import transaction
from django.utils import timezone

from rheon.core.analysis import cover_jpeg
from rheon.core.delivery import beside, put_in_place
from rheon.core.encoding import part_path
from rheon.core.errors import RheonError, SourceMissing, TagsRefused
from rheon.core.media import Tags, tags_of
from rheon.core.media.documents import dump, load
from rheon.core.planning import usual_cover
from rheon.core.planning.decisions.file.tags import read_tag
from rheon.core.system import own_token, rename_new
from rheon.core.tagging import TAGGED, retag, tagged_copy
from rheon.server.shelf.models import Title

from ..models import ArtworkWanted, Output
from ..names import name_by, root_of
from ..outdated import outdated_files
from ..tasks import write_tags_task


def want_tags(
    output: Output, values: Mapping[str, str], *, rename: bool, artwork: ArtworkWanted = ArtworkWanted.KEPT
) -> None:
    """Have other tags, and the artwork of the title, written, and the file called by them if so wished.

    Raises ``BadPin``, ``TagsRefused`` where it can hold none, or ``SourceMissing``.
    """
    if output.container not in TAGGED:
        raise TagsRefused("Files of this kind have no place for tags that Rheon could change.")
    if not Path(output.path).is_file():
        raise SourceMissing("The file is not where it was made any more, so nothing can be written into it.")
    read = {tag: read_tag(tag, value) for tag, value in values.items()}
    tags = tags_of({**output.tags, **read})
    said = dump(tags)
    output.own_tags = sorted({*output.own_tags, *(tag for tag in read if said[tag] != output.tags.get(tag))})
    _want(output, tags, name_by(output, tags) if rename else "", artwork)


def update_files(titles: Sequence[int], *, rename: bool) -> int:
    """Have what is known of titles now written into their files; returns into how many."""
    outdated = list(outdated_files(titles))
    for one in outdated:
        _want(one.output, one.tags, one.name if rename else "", ArtworkWanted.KEPT)
    return len(outdated)


def _want(output: Output, tags: Tags, name: str, artwork: ArtworkWanted) -> None:
    output.tags_wanted, output.tags_error = {"tags": dump(tags), "name": name, "artwork": artwork.value}, ""
    output.save(update_fields=["tags_wanted", "tags_error", "own_tags"])
    transaction.on_commit(lambda: write_tags_task.enqueue(output.pk))


def write_now(output_id: int) -> None:
    """Write what is wanted into a file; whatever goes wrong is kept with it, and the file is as it was."""
    output = Output.objects.filter(pk=output_id, tags_wanted__isnull=False).first()
    if output is None or output.tags_wanted is None:
        return
    wanted = output.tags_wanted
    try:
        tags, way = load(Tags, wanted["tags"]), ArtworkWanted(wanted.get("artwork", ArtworkWanted.KEPT))
        path = _written(output, tags, _artwork(output, way), str(wanted["name"]))
        facts: dict[str, object] = {
            "path": str(path), "size_bytes": path.stat().st_size, "tags": wanted["tags"], "tags_error": "",
        }  # fmt: skip
    except RheonError as error:
        facts = {"tags_error": error.message}
    except OSError as error:
        facts = {"tags_error": str(error.strerror)}
    Output.objects.filter(pk=output_id, tags_wanted=wanted).update(tags_wanted=None, tagged=timezone.now(), **facts)


def _artwork(output: Output, way: ArtworkWanted) -> bytes | None:
    """What is put in; empty to take out what is in it, ``None`` to leave it. Raises ``RheonError``."""
    if way is not ArtworkWanted.OF_TITLE:
        return b"" if way is ArtworkWanted.NONE else None
    title = Title.objects.select_related("source").filter(pk=output.title_id or 0).first()
    core = title.readable_title() if title else None
    cover = usual_cover(core) if core else None
    if core is None or cover is None:
        raise SourceMissing("The title is not on the Shelf any more, so there is no artwork of it.")
    return cover_jpeg(core, cover)


def _written(output: Output, tags: Tags, artwork: bytes | None, name: str) -> Path:
    path = Path(output.path)
    root = root_of(path)
    part = part_path(root, own_token())
    if not name or root / name == path:
        retag(path, part, output.container, tags, artwork)
        return path
    with tagged_copy(path, part, output.container, tags, artwork):
        moved = put_in_place(part, name)
    for side in beside(path):
        rename_new(side, moved.parent / f"{moved.stem}{side.name.removeprefix(path.stem)}")
    path.unlink()
    _remove_empty(path.parent, root)
    return moved


def _remove_empty(folder: Path, root: Path) -> None:
    """Folders that a file has left behind, up to the one for all files."""
    while folder != root and folder.is_relative_to(root) and not any(folder.iterdir()):
        folder.rmdir()
        folder = folder.parent
