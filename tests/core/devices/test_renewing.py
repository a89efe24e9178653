"""A newer catalogue over what a household has changed: nothing of it is lost, and every difference is told."""

from __future__ import annotations

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from rheon.core.devices import (
    DeviceProfile,
    Ground,
    MediaFacts,
    Sure,
    answered,
    catalogue,
    device,
    played,
    renewed,
    written,
)
from rheon.core.media import AudioStream

BASE = device("tv-2013")


def line(profile: DeviceProfile, codec: str) -> Any:
    return next(entry for entry in (*profile.video, *profile.audio) if entry.codec == codec)  # type: ignore[attr-defined]


def newer(**changes: Any) -> DeviceProfile:
    return BASE.model_copy(update={"version": BASE.version + 1, **changes})


def with_sure(entry: Any, sure: Sure) -> Any:
    return entry.model_copy(update={"ground": Ground(sure=sure, rests_on="class", point=entry.ground.point)})


def test_what_nobody_touched_follows_the_catalogue_and_is_told() -> None:
    video = tuple(with_sure(entry, Sure.SUPPOSED) if entry.codec == "hevc" else entry for entry in BASE.video)
    theirs = newer(video=(*video, device("tv-4k-2021").video_entries("av1")[0]), about="Better known now.")
    found = renewed(BASE, BASE, theirs)
    assert found.profile == theirs
    assert [(change.what, change.text) for change in found.changes] == [
        ("changed", "HEVC up to 1920 × 1080 (supposed), before HEVC up to 1920 × 1080 (doubtful)"),
        ("new", "AV1 up to 3840 × 2160, 10 bit (doubtful)"),
        ("changed", "About: Better known now."),
    ]


def test_what_was_learned_and_written_stays_and_the_rest_is_renewed() -> None:
    silent = MediaFacts(
        container="mp4", extension="mp4", size_bytes=1, duration_s=1, video=None,
        audio=AudioStream(index=0, codec="dts", channels=6, sample_rate=48000),
    )  # fmt: skip
    mine = played(answered(BASE, "mkv_played", yes=True), silent, "2026-11-27")
    mine = written(mine, mine.model_copy(update={"name": "Ours", "audio": (*mine.audio[1:], mine.audio[0])}))
    theirs = newer(
        audio=tuple(
            with_sure(entry, Sure.KNOWN) if entry.codec == "eac3" else entry
            for entry in BASE.audio
            if entry.codec != "dts"
        ),
        containers=tuple(entry for entry in BASE.containers if entry.extension != "m2ts"),
    )
    found = renewed(mine, BASE, theirs)
    assert found.profile.name == "Ours"
    assert line(found.profile, "dts").sure is Sure.PROVEN
    assert line(found.profile, "eac3").sure is Sure.KNOWN
    assert found.profile.audio[-1].codec == BASE.audio[0].codec, "the order that somebody chose"
    assert {entry.extension for entry in found.profile.containers} == {entry.extension for entry in theirs.containers}
    mkv = next(entry for entry in found.profile.containers if entry.extension == "mkv")
    assert mkv.ground and mkv.ground.rests_on == "person"
    assert found.profile.evidence == mine.evidence
    assert found.profile.version == theirs.version


def test_a_line_that_both_changed_stays_as_it_is_here_and_is_told() -> None:
    mine = answered(device("phone-2012"), "camera_films_full_hd", yes=True)
    base = device("phone-2012")
    theirs = base.model_copy(
        update={"version": 2, "video": tuple(with_sure(entry, Sure.SUPPOSED) for entry in base.video)}
    )
    found = renewed(mine, base, theirs)
    assert found.profile.video[0].sure is Sure.KNOWN
    assert [change.what for change in found.changes if "1920" in change.text] == ["kept"]


@given(st.data())
def test_the_changes_of_a_household_survive_any_newer_catalogue(data: st.DataObject) -> None:
    """Three-way laws: untouched at home gives theirs, untouched in the catalogue gives mine."""
    kinds = [profile for profile in catalogue().values() if not profile.generic]
    base = data.draw(st.sampled_from(kinds))

    def drawn(topic: str) -> tuple[Any, ...]:
        own = list(getattr(base, topic))
        kept = [entry for entry in own if data.draw(st.booleans())] or own[:1]
        return tuple(with_sure(entry, Sure.KNOWN) if data.draw(st.booleans()) else entry for entry in kept)

    mine = base.model_copy(update={"audio": drawn("audio"), "containers": drawn("containers")})
    theirs = base.model_copy(
        update={"version": 2, "audio": drawn("audio"), "video": drawn("video") if base.video else ()}
    )
    assert renewed(base, base, theirs).profile == theirs
    assert renewed(mine, base, base.model_copy(update={"version": 2})).profile == mine.model_copy(update={"version": 2})
    found = renewed(mine, base, theirs)
    assert found.profile.containers == mine.containers
    changed_here = [entry for entry in mine.audio if entry not in base.audio]
    assert all(entry in found.profile.audio for entry in changed_here)
    assert renewed(found.profile, theirs, theirs).profile == found.profile
