"""What the demo holds, as data: scenes, words and the discs made of them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Palette:
    """Colours of a scene, from the sky's top to the nearest water, and where its sun stands (0 to 1)."""

    sky_top: str
    sky_low: str
    sun: str
    strata: tuple[str, str, str, str]
    sun_x: float
    sun_y: float


DAWN = Palette(
    sky_top="#F3D9A4", sky_low="#F7E6C4", sun="#FFF3D6",
    strata=("#E6B878", "#C98F5F", "#5E8C8A", "#1F5A61"), sun_x=0.72, sun_y=0.36,
)  # fmt: skip
NOON = Palette(
    sky_top="#A9CDD3", sky_low="#E4EFE6", sun="#FFFFFF",
    strata=("#BFCFA8", "#8FAA76", "#4E8C8F", "#0F6B6F"), sun_x=0.40, sun_y=0.16,
)  # fmt: skip
FOG = Palette(
    sky_top="#B9C4C4", sky_low="#D5DAD5", sun="#E8ECE6",
    strata=("#AEBBBB", "#94A6A8", "#75898D", "#4F676D"), sun_x=0.55, sun_y=0.24,
)  # fmt: skip
DUSK = Palette(
    sky_top="#5B4B73", sky_low="#E08E5B", sun="#FFD27A",
    strata=("#8E5466", "#5F3F5E", "#3A3557", "#1D2140"), sun_x=0.30, sun_y=0.46,
)  # fmt: skip
NIGHT = Palette(
    sky_top="#0E1826", sky_low="#24384B", sun="#E9E4C9",
    strata=("#20344A", "#182A3D", "#102030", "#0A1622"), sun_x=0.78, sun_y=0.18,
)  # fmt: skip
MARSH = Palette(
    sky_top="#D8C690", sky_low="#EFE3B9", sun="#FFF8DC",
    strata=("#A7A65E", "#7E8C49", "#56743F", "#2F5238"), sun_x=0.62, sun_y=0.28,
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class Programme:
    """One programme to paint: a name for its files, its scenes in order, and seconds for each."""

    name: str
    scenes: tuple[Palette, ...]
    scene_s: float
    caption: str

    @property
    def duration_s(self) -> float:
        return self.scene_s * len(self.scenes)


FILM = Programme(
    name="marram-nights", scenes=(DAWN, NOON, MARSH, FOG, DUSK, NIGHT), scene_s=30, caption="MARRAM NIGHTS"
)
FILM_LABEL = "MARRAM_NIGHTS"
FILM_CHAPTERS_S = (0, 30, 60, 90, 120, 150)
EXTRAS = (
    Programme(name="making-of", scenes=(MARSH, NOON), scene_s=12, caption="MAKING OF"),
    Programme(name="trailer", scenes=(DUSK, NIGHT), scene_s=6, caption="TRAILER"),
    Programme(name="second-trailer", scenes=(FOG,), scene_s=9, caption="SECOND TRAILER"),
    Programme(name="outtakes", scenes=(NOON, DAWN), scene_s=8, caption="OUTTAKES"),
    Programme(name="the-boats", scenes=(DAWN,), scene_s=10, caption="THE BOATS"),
)
SERIES_LABEL = "LANTERN_STREET_S1"
EPISODES = (
    Programme(name="lantern-1", scenes=(DUSK, NIGHT), scene_s=10, caption="LANTERN STREET 1"),
    Programme(name="lantern-2", scenes=(FOG, DUSK), scene_s=10.2, caption="LANTERN STREET 2"),
    Programme(name="lantern-3", scenes=(NIGHT, DAWN), scene_s=10.4, caption="LANTERN STREET 3"),
    Programme(name="lantern-4", scenes=(NOON, DUSK), scene_s=10, caption="LANTERN STREET 4"),
)
KEEPERS_LABEL, KEEPERS_REST_LABEL = "LOCK_KEEPERS", "LOCK_KEEPERS_D2"
KEEPERS = (
    Programme(name="keepers-1", scenes=(DAWN, NOON), scene_s=5, caption="KEEPERS 1"),
    Programme(name="keepers-2", scenes=(MARSH, FOG), scene_s=5.4, caption="KEEPERS 2"),
    Programme(name="keepers-3", scenes=(NOON, DUSK), scene_s=5.2, caption="KEEPERS 3"),
    Programme(name="keepers-4", scenes=(DUSK, NIGHT), scene_s=5, caption="KEEPERS 4"),
)
KEEPERS_OPENING_S = 2.4
FERRY_LABEL = "THE_LAST_FERRY"
FERRY = (
    Programme(name="ferry-1", scenes=(DUSK, NOON), scene_s=7, caption="THE LAST FERRY"),
    Programme(name="ferry-2", scenes=(FOG,), scene_s=2.5, caption="A SCENE MORE"),
    Programme(name="ferry-3", scenes=(MARSH, DAWN), scene_s=7, caption="UP THE RIVER"),
)
"""The second title of the disc is the film without its middle part."""
DAMAGED_LABEL, SCRAMBLED_LABEL = "SALT_ROAD", "GLASS_HARBOUR"
SALT_ROAD = Programme(name="salt-road", scenes=(MARSH, DAWN, NOON), scene_s=10, caption="SALT ROAD")
SALT_ROAD_HOLE_S = (12.0, 17.0)
HERON_LABEL = "HERON_REACH"
HERON = (
    Programme(name="heron-1", scenes=(DAWN, MARSH), scene_s=10, caption="HERON REACH"),
    Programme(name="heron-2", scenes=(DUSK,), scene_s=12, caption="THE SECOND TIDE"),
)
HERON_EXTRA = Programme(name="heron-birds", scenes=(NOON,), scene_s=6, caption="THE BIRDS")
HERON_MENU = Programme(name="heron-menu", scenes=(FOG,), scene_s=2, caption="HERON REACH")
HERON_CHAPTERS_S = (0, 10, 20, 26)
TIDE_WATCH_LABEL = "Tide Watch"
TIDE_WATCH = tuple(
    Programme(name=f"tide-{n}", scenes=(scene,), scene_s=8, caption=f"TIDE WATCH {n}")
    for n, scene in ((1, NOON), (2, FOG), (10, DAWN))
)
KITES = Programme(name="kite-day", scenes=(NOON, MARSH), scene_s=12, caption="KITE DAY")
REGATTA = Programme(name="regatta", scenes=(DAWN, NOON), scene_s=10, caption="REGATTA")
LAUNCH = Programme(name="launch", scenes=(MARSH,), scene_s=14, caption="LAUNCH")


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A subtitle line, from when to when, in seconds; a forced one is shown even with subtitles off."""

    start_s: float
    end_s: float
    text: str
    forced: bool = False


ENGLISH_LINES = (
    Line(start_s=3, end_s=7, text="The tide does not wait for us."),
    Line(start_s=12, end_s=16, text="Then we leave before it turns."),
    Line(start_s=33, end_s=37, text="You can see the whole marsh from here."),
    Line(start_s=62, end_s=66, text="Nobody has walked this bank since the flood."),
    Line(start_s=94, end_s=98, text="Stay close. The fog plays with voices."),
    Line(start_s=123, end_s=127, text="Light the lamp."),
    Line(start_s=154, end_s=159, text="They will follow it home."),
)
HERON_LINES = (
    Line(start_s=2, end_s=5, text="Forty years, and the river still surprises."),
    Line(start_s=8, end_s=11, text="¿Quién anda ahí?", forced=True),
    Line(start_s=14, end_s=17, text="Only a heron."),
    Line(start_s=22, end_s=25, text="It came back with the second tide."),
)
SPANISH_LINES = (
    Line(start_s=3, end_s=7, text="La marea no nos espera."),
    Line(start_s=12, end_s=16, text="Entonces salimos antes de que cambie."),
    Line(start_s=62, end_s=66, text="Nadie ha pisado esta orilla desde la crecida."),
    Line(start_s=123, end_s=127, text="Enciende la lámpara."),
    Line(start_s=154, end_s=159, text="La seguirán hasta casa."),
)
