from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.naming.names import FORBIDDEN_BY_FILE_SYSTEM, display_name, safe_stem


@pytest.mark.parametrize(
    ("label", "name"),
    [
        ("MARRAM_NIGHTS", "Marram Nights"),
        ("LANTERN_STREET_S1", "Lantern Street S1"),
        ("THE_KING_OF_THE_MARSH", "The King of the Marsh"),
        ("Kite day", "Kite day"),
        ("", "Untitled"),
        ("2024_05", "2024 05"),
    ],
)
def test_labels_become_names_as_people_write_them(label: str, name: str) -> None:
    assert display_name(label) == name


@given(
    st.text(max_size=300) | st.sampled_from(["con", "Aux.", "COM1.part two", "nul.x.y", "lpt9 "]),
    st.sampled_from(list(FORBIDDEN_BY_FILE_SYSTEM)),
)
def test_any_name_becomes_one_that_the_file_system_takes(name: str, file_system: str) -> None:
    stem = safe_stem(name, file_system)
    assert stem
    assert not stem.startswith(".")
    assert len(f"{stem} (9999).mp4".encode()) <= 255
    assert not set(stem) & set(FORBIDDEN_BY_FILE_SYSTEM[file_system] + "/\n\r\0")
    assert safe_stem(stem, file_system) == stem
    assert not re.match(r"(con|prn|aux|nul|com[1-9]|lpt[1-9])(\.|$)", stem, re.IGNORECASE)


def test_device_names_and_emoji_and_dashes() -> None:
    assert [safe_stem(name) for name in ("CON", "-rf", "\U0001f600", "a|b", "..", "a\nb")] == [
        "CON_",
        "-rf",
        "\U0001f600",
        "a|b",
        "Untitled",
        "a b",
    ]
