"""Reading what works are called."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from rheon.core.catalogue import say
from rheon.core.look_up.matching import Here, Match, matches
from rheon.core.look_up.told import work_text
from rheon.core.look_up.works import WorkQuestion
from rheon.core.media import ContentKind
from rheon.core.naming.patterns import Naming
from rheon.core.naming.sureness import SURE_FROM
from rheon.core.planning.decisions import DecisionKind
from rheon.core.planning.decisions.file import BY_TAG
from rheon.core.planning.decisions.file.tags import tag_choices
from rheon.core.wording import sentence
from rheon.server.home.naming import called_here, house_naming

from . import tag_documents
from .models import Answer, Title


def tags_document(titles: Sequence[int]) -> tag_documents.Tags:
    """Tags of some titles, in the order in which they were named."""
    rows = Title.objects.select_related("source").defer("document", "outline", "samples", "survey").in_bulk(titles)
    naming = house_naming()
    return tag_documents.Tags(
        fields=[_tag_field(name, kind) for name, kind in BY_TAG.items()],
        titles=[_title_tags(rows[pk], naming) for pk in titles if pk in rows],
        look_below=SURE_FROM,
    )


def look_up_document(answer: Answer, question: WorkQuestion, titles: Sequence[int]) -> tag_documents.LookUp:
    """The works of an answer as they stand to titles, the surest first, with what each would change of them."""
    rows = Title.objects.select_related("source").in_bulk(titles)
    here = [_here(rows[pk]) for pk in titles if pk in rows]
    works = answer.found()
    return tag_documents.LookUp(
        service=answer.service,
        answered=answer.at,
        works=[
            _found(match, f"{answer.pk}/{works.index(match.work)}", rows) for match in matches(works, question, here)
        ],
    )


def _here(row: Title) -> Here:
    core, known = row.core_title(), row.tags()
    number = known.found.get("episode")
    sure = number is not None and number.sure >= SURE_FROM and known.tags.kind is ContentKind.EPISODE
    return Here(
        number=row.pk,
        duration_s=row.duration_s,
        frame_rate=float(core.video.frame_rate) if core.video and core.video.frame_rate else 0.0,
        episode=known.tags.episode if sure else None,
    )


def _found(match: Match, key: str, rows: Mapping[int, Title]) -> tag_documents.FoundWork:
    known = {pk: rows[pk].tags().found for pk in match.tags}
    wanted = [(pk, tag, str(value)) for pk, tags in match.tags.items() for tag, value in tags.items()]
    other = [one for one in wanted if one[1] not in known[one[0]] or str(known[one[0]][one[1]].value) != one[2]]
    # what was taken from a work before may be taken from another one
    stays = {(pk, tag) for pk, tag, _ in other if tag in known[pk] and known[pk][tag].reason.code == "tag_by_hand"}
    return tag_documents.FoundWork(
        key=key,
        title=match.work.title,
        about=work_text(match.work),
        agrees=match.agrees,
        facts=[tag_documents.WorkFact(text=sentence(fact.reason), agrees=fact.agrees) for fact in match.facts],
        changes=[
            tag_documents.WorkChange(
                title_id=pk,
                title_name=rows[pk].name,
                tag=tag,
                label=say(BY_TAG[tag].label),
                old=str(known[pk][tag].value) if tag in known[pk] else "",
                new=value,
            )
            for pk, tag, value in other
            if (pk, tag) not in stays
        ],
        kept=len(stays),
    )


def _tag_field(name: str, kind: DecisionKind[Any]) -> tag_documents.TagField:
    return tag_documents.TagField(name=name, label=say(kind.label), help=say(kind.help), choices=tag_choices(name))


def _title_tags(title: Title, naming: Naming) -> tag_documents.TitleTags:
    known = title.tags()
    by_hand = title.tags_by_hand.keys() | ({"title"} if title.named_by_hand else set())
    return tag_documents.TitleTags(
        title_id=title.pk,
        title_name=title.name,
        source_id=title.source_id,
        source_name=title.source.name,
        duration_s=title.duration_s,
        file_name=called_here(known.tags.or_called(title.name), naming),
        tags={
            name: tag_documents.Tag(
                value=str(one.value), reason=sentence(one.reason), sure=one.sure, by_hand=name in by_hand
            )
            for name, one in known.found.items()
        },
    )
