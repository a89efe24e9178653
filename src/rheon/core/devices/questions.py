"""What a person can be asked about a device: plain questions that need no word of the trade."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """Answered by yes, no or “don't know”. ``help`` says where one looks, or why it is asked."""

    id: str
    text: str
    help: str


QUESTIONS: dict[str, Question] = {
    question.id: question
    for question in (
        # what tells the kinds of one family apart
        Question(id="keys", text="Does it have number keys instead of a touch screen?", help="Keys that one presses."),
        Question(id="touch", text="Does one touch its screen?", help="Else it has keys or a wheel."),
        Question(id="small", text="Is it small, about the size of a paperback?", help="The screen is up to 8½ inches."),
        Question(
            id="for_children",
            text="Was it made for children?",
            help="A thick rubber case, or a menu of its own for children.",
        ),
        Question(
            id="says_4k",
            text="Does it say 4K or UHD, on the box or in its menu?",
            help="Also: Ultra HD, 2160p. It is printed large where it is true.",
        ),
        Question(
            id="hd_ready",
            text="Is it a smaller set that says HD ready, not Full HD?",
            help="A sticker on the frame; such sets are up to about 80 cm across.",
        ),
        Question(
            id="stick",
            text="Does it hang in the TV's socket itself, no larger than a finger?",
            help="A stick has no disk and no stand of its own.",
        ),
        Question(id="blue_discs", text="Does it play Blu-ray discs too?", help="The drawer or lid shows the word."),
        Question(
            id="handheld",
            text="Does one hold it in the hands, with the screen in it?",
            help="Else it stands under the TV.",
        ),
        Question(
            id="headrest",
            text="Does the screen hang behind a seat or lie in the lap?",
            help="Else it sits in the dashboard.",
        ),
        Question(id="palm", text="Does it fit into a hand?", help="A small one has a battery."),
        Question(id="wifi", text="Does it join the Wi-Fi?", help="Then it has a touch screen or an app, as a rule."),
        Question(id="in_a_car", text="Is it the radio of a car?", help="With a socket for a stick."),
        Question(
            id="on_the_network",
            text="Does it join the network or stand in the hi-fi shelf?",
            help="Else it is a radio, a clip or a small player.",
        ),
        Question(
            id="only_current",
            text="Does everybody who watches keep the browser up to date?",
            help="If you do not know them all, they do not.",
        ),
        # what settles a doubt about one ability
        Question(
            id="camera_films_wide",
            text="Do its own films fill the whole screen?",
            help="Films of its camera that are tiny in the middle mean no.",
        ),
        Question(
            id="camera_films_720",
            text="Does its own camera film in HD (720p)?",
            help="The camera's settings say so. What it films, it plays.",
        ),
        Question(
            id="camera_films_full_hd",
            text="Does its own camera film in Full HD (1080p)?",
            help="The camera's settings say so. What it films, it plays.",
        ),
        Question(
            id="camera_films_4k",
            text="Does its own camera film in 4K?",
            help="The camera's settings say so. What it films, it plays.",
        ),
        Question(
            id="mkv_played",
            text="Has a film whose name ends in .mkv ever played on it?",
            help="Only if you have seen it: from a stick, a card or its own store.",
        ),
        Question(
            id="large_sticks",
            text="Does it read sticks or cards of 64 GB and more, as they come from the shop?",
            help="Those are not FAT32; a device that reads them takes files over 4 GB.",
        ),
        Question(id="says_hdr", text="Does it say HDR, on the box or in its menu?", help="High dynamic range."),
        Question(
            id="says_hevc",
            text="Does its box or leaflet name HEVC or H.265?",
            help="Sets for the newer broadcasts name it; look under “Video” or “Tuner”.",
        ),
        Question(
            id="dts_logo",
            text="Is “DTS” printed on it or on its box?",
            help="A sound format of discs; makers pay for it and print it.",
        ),
        Question(
            id="bought_lately",
            text="Was it new in 2023 or later?",
            help="Then it decodes the newest kind of picture, as a rule.",
        ),
    )
}
