"""Names by patterns: what any tags come to on any file system, and what no pattern may do."""

from __future__ import annotations

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.errors import BadPattern
from rheon.core.media import ContentKind, Tags
from rheon.core.naming.names import FORBIDDEN_BY_FILE_SYSTEM, safe_stem
from rheon.core.naming.patterns import (
    FLAT,
    IN_FOLDERS,
    LONGEST_PATH,
    MOST_FOLDERS,
    PLACES,
    PRESETS,
    PresetName,
    file_path,
    read_pattern,
)

FILM = Tags(title="Marram Nights", year=1994)
EPISODE = Tags(kind=ContentKind.EPISODE, title="Slack Water", show="Tide Watch", season=1, episode=2)
TEXTS = st.text(st.characters(exclude_categories=["Cs"]), max_size=120)
NUMBERS = st.none() | st.integers(0, 9999)
ANY = st.builds(
    Tags, kind=st.sampled_from(ContentKind), title=TEXTS, show=TEXTS, season=NUMBERS, episode=NUMBERS, part=NUMBERS,
    year=NUMBERS, edition=TEXTS, artist=TEXTS,
)  # fmt: skip


@pytest.mark.parametrize(
    ("tags", "flat", "in_folders"),
    [
        (FILM, "Marram Nights (1994)", "Marram Nights (1994)/Marram Nights (1994)"),
        (replace(FILM, year=None), "Marram Nights", "Marram Nights/Marram Nights"),
        (
            replace(FILM, edition="extended", part=2),
            "Marram Nights (1994) (extended), part 2",
            "Marram Nights (1994)/Marram Nights (1994) (extended), part 2",
        ),
        (EPISODE, "Tide Watch - S01E02 - Slack Water", "Tide Watch/Season 01/Tide Watch - S01E02 - Slack Water"),
        (replace(EPISODE, title=""), "Tide Watch - S01E02", "Tide Watch/Season 01/Tide Watch - S01E02"),
        (replace(EPISODE, season=None), "Tide Watch - E02 - Slack Water", "Tide Watch/Tide Watch - E02 - Slack Water"),
        (replace(EPISODE, season=0, episode=0), "Tide Watch - S00E00 - Slack Water", None),
        (replace(EPISODE, show=""), "S01E02 - Slack Water", "Season 01/S01E02 - Slack Water"),
        (
            Tags(kind=ContentKind.EXTRA, title="The Boats", show="Tide Watch"),
            "The Boats",
            "Tide Watch/Extras/The Boats",
        ),
        (Tags(kind=ContentKind.SOUND, title="Neaps", artist="The Sluices"), "The Sluices - Neaps", None),
        (Tags(title="AC/DC: \\live"), "AC-DC: -live", None),
    ],
)
def test_files_are_called_as_libraries_sort_them(tags: Tags, flat: str, in_folders: str | None) -> None:
    assert file_path(FLAT.of(tags.kind), tags, {}) == flat
    if in_folders is not None:
        assert file_path(IN_FOLDERS.of(tags.kind), tags, {}) == in_folders


@given(ANY, st.sampled_from(sorted(PRESETS)), st.sampled_from(sorted(FORBIDDEN_BY_FILE_SYSTEM)))
def test_whatever_the_tags_the_name_lies_in_its_folders_and_every_piece_is_safe(
    tags: Tags, preset: PresetName, file_system: str
) -> None:
    path = file_path(PRESETS[preset].of(tags.kind), tags, {}, file_system)
    pieces = path.split("/")
    assert len(path) <= LONGEST_PATH and 1 <= len(pieces) <= (1 if preset == "flat" else MOST_FOLDERS)
    for piece in pieces:
        assert piece == safe_stem(piece, file_system) and piece not in ("", ".", "..")


@given(st.text(max_size=60))
def test_any_text_is_a_pattern_or_is_refused_in_a_sentence(text: str) -> None:
    try:
        read_pattern(text)
    except BadPattern as error:
        assert error.message
    else:
        assert file_path(text, FILM, {})


@pytest.mark.parametrize(
    "text",
    [
        "{{ title.__class__ }}", "{{ title['x'] }}", "{{ title() }}", "{{ title * 999999 }}", "{{ 9 ** 99 }}",
        "{% for one in title %}x{% endfor %}", "{% set x = 1 %}{{ x }}", "{% include 'x' %}", "{{ x }}", "{{ title",
        "{{ title|center(999999) }}", "{{ title|attr('upper') }}", "{{ range }}", "", "  ", "{% if 0 %}x{% endif %}",
        "x" * 401, "{{ '%0999999d'|format(1) }}", "{% raw %}{{ title }", "{{ self }}", "{{ loop }}",
    ],
)  # fmt: skip
def test_what_calls_repeats_or_names_nothing_is_no_pattern(text: str) -> None:
    with pytest.raises(BadPattern):
        read_pattern(text)


@pytest.mark.parametrize("place", PLACES)
def test_each_place_is_enough_of_a_pattern(place: str) -> None:
    assert read_pattern(f"{{{{ {place} }}}}") and file_path(f"{{{{ {place} }}}}", FILM, {})


def test_a_pattern_may_choose_and_change() -> None:
    said = "{{ director|default('unknown', true)|upper }}/{% if year and year|int > 1990 %}new{% else %}old{% endif %}"
    assert file_path(f"{said}/{{{{ title|replace(' ', '_') }}}}", FILM, {}) == "UNKNOWN/new/Marram_Nights"
    assert file_path("{{ title }} [{{ device }}]", FILM, {"device": "Wren 6"}) == "Marram Nights [Wren 6]"
    assert file_path("/../{{ title }}/..", FILM, {}) == "Marram Nights"
