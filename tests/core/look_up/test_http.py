"""A look-up over a real connection: what is sent, and whatever a service may answer, in time and out of it."""

from __future__ import annotations

import contextlib
import json
import socket
import threading
import time
from collections.abc import Callable, Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rheon.core.errors import LookUpFailed
from rheon.core.look_up.answers import MOST_WORKS, read_answer
from rheon.core.look_up.http import MOST_BYTES, HttpService
from rheon.core.look_up.works import Work, WorkKind, WorkQuestion
from rheon.core.media.tags import LONGEST_TAG, LONGEST_TEXT
from rheon.demo.works import known_works, serve

FILM = WorkQuestion(kind=WorkKind.FILM, title="Marram  Nights & Days", year=1994, season=3)
SHORT_S = 0.6


@contextlib.contextmanager
def service(
    answer: Callable[[socket.socket], None], patience_s: float = 5
) -> Iterator[tuple[HttpService, list[bytes]]]:
    """Something that takes one connection after another, and what it was sent."""
    sent: list[bytes] = []
    listening = socket.create_server(("127.0.0.1", 0))

    def talk() -> None:
        with contextlib.suppress(OSError):
            while True:
                connection, _ = listening.accept()
                with connection, contextlib.suppress(OSError):
                    sent.append(connection.recv(65_536))
                    answer(connection)

    threading.Thread(target=talk, daemon=True).start()
    try:
        address = f"http://127.0.0.1:{listening.getsockname()[1]}/films/"
        yield HttpService(address=address, patience_s=patience_s), sent
    finally:
        listening.close()


def says(body: bytes, head: str = "200 OK", more: str = "") -> Callable[[socket.socket], None]:
    whole = f"HTTP/1.1 {head}\r\n{more}Content-Length: {len(body)}\r\nConnection: close\r\n\r\n".encode() + body
    return lambda connection: connection.sendall(whole)


def drips(connection: socket.socket) -> None:
    connection.sendall(b"HTTP/1.1 200 OK\r\n\r\n")
    for _ in range(200):
        connection.sendall(b" ")
        time.sleep(0.05)


def drips_its_head(connection: socket.socket) -> None:
    connection.sendall(b"HTTP/1.1 200 OK\r\nX: ")
    for _ in range(200):
        connection.sendall(b"a")
        time.sleep(0.05)


def floods(connection: socket.socket) -> None:
    connection.sendall(b"HTTP/1.1 200 OK\r\n\r\n")
    for _ in range(MOST_BYTES // 65_536 + 2):
        connection.sendall(b" " * 65_536)


def test_the_words_of_the_question_are_sent_and_nothing_else() -> None:
    with service(says(b'{"works": []}')) as (known, sent):
        assert known.search(FILM) == ()
    head, _, rest = sent[0].decode().partition("\r\n")
    assert head == "GET /films/works?kind=film&title=Marram+Nights+%26+Days&year=1994 HTTP/1.1"
    assert {line.partition(":")[0] for line in rest.strip().split("\r\n")} == {
        "Host", "Accept-Encoding", "Accept", "User-Agent",
    }  # fmt: skip
    assert "User-Agent: Rheon\r\n" in rest


@pytest.mark.parametrize(
    ("answer", "said"),
    [
        (says(b"", "500 Oh"), "status 500"),
        (says(b"", "404 Not Found"), "status 404"),
        (says(b"not json"), "no list of works"),
        (says(b'{"works": "many"}'), "no list of works"),
        (says(b"[]"), "no list of works"),
        (says(b"[" * 100_000), "no list of works"),
        (says(b'{"works": [{"name": "x"}]}'), "no title or no kind"),
        (says(b'{"works": [{"kind": "film", "ti')  , "no list of works"),
        (floods, "more than a list"),
        (lambda connection: connection.sendall(b"SSH-2.0\r\n"), "can't be reached"),
        (lambda connection: None, "can't be reached"),
    ],
)  # fmt: skip
def test_what_is_no_answer_is_a_sentence(answer: Callable[[socket.socket], None], said: str) -> None:
    with service(answer) as (known, _), pytest.raises(LookUpFailed) as failed:
        known.search(FILM)
    assert said in failed.value.what and "Nothing was changed." in failed.value.message


@pytest.mark.parametrize("answer", [lambda _: time.sleep(3), drips, drips_its_head])
def test_an_answer_is_not_waited_for_longer_however_slowly_it_comes(answer: Callable[[socket.socket], None]) -> None:
    begun = time.monotonic()
    with service(answer, SHORT_S) as (known, _), pytest.raises(LookUpFailed, match=r"did not answer within 0\.6 s"):
        known.search(FILM)
    # not a measure of speed: it would have taken several times as long
    assert time.monotonic() - begun < 2.5


def test_a_service_that_is_not_there_says_so() -> None:
    with socket.create_server(("127.0.0.1", 0)) as listening:
        port = listening.getsockname()[1]
    with pytest.raises(LookUpFailed, match="can't be reached: Connection refused"):
        HttpService(address=f"http://127.0.0.1:{port}").search(FILM)


def test_the_words_go_no_further_than_the_address() -> None:
    with service(says(b'{"works": []}')) as (other, elsewhere):
        moved = says(b"", "302 Found", f"Location: {other.address}works\r\n")
        with service(moved) as (known, _), pytest.raises(LookUpFailed, match="status 302"):
            known.search(FILM)
        assert not elsewhere


def test_works_are_read_whole_and_held_to_what_tags_can_be() -> None:
    long = "ä" * 5000
    body = {
        "works": [
            {"kind": "film", "title": "Marram\u0000 Nights\n", "year": 1994, "duration_s": 5538,
             "director": ["A", "A", "B"], "genre": None, "cast": 7, "description": long, "edition": long, "unknown": 1},
            {"kind": "series", "title": "Lantern Street", "season": 1, "duration_s": "long", "year": True,
             "episodes": [{"number": 2, "title": "Two", "duration_s": 1500.5}, {"number": 1},
                          {"number": 2, "title": "Again"}, {"title": "Without"}, 7, {"number": -1},
                          {"number": 3, "duration_s": -5}]},
            {"kind": "opera", "title": "No kind of ours"}, "x", {"kind": "film", "title": " "},
            *[{"kind": "film", "title": str(number)} for number in range(100)],
        ]
    }  # fmt: skip
    film, season, *more = read_answer(json.dumps(body).encode())
    assert (film.title, film.year, film.duration_s, film.director) == ("Marram Nights", 1994, 5538, "A, B")
    assert (film.genre, film.cast) == ("", "")
    assert len(film.description.encode()) <= LONGEST_TEXT and len(film.edition.encode()) <= LONGEST_TAG
    assert (season.year, season.duration_s) == (None, None)
    assert [(one.number, one.title, one.duration_s) for one in season.episodes] == [
        (1, "", None), (2, "Two", 1500.5), (3, "", None),
    ]  # fmt: skip
    assert len(more) <= MOST_WORKS


JSON = st.recursive(
    st.none() | st.booleans() | st.floats() | st.integers() | st.text(),
    lambda inner: (
        st.lists(inner, max_size=4)
        | st.dictionaries(
            st.sampled_from(["works", "kind", "title", "episodes", "number", "year", "director", "duration_s", "x"]),
            inner | st.sampled_from(["film", "series"]),
            max_size=6,
        )
    ),
    max_leaves=30,
)


@given(JSON, st.binary(max_size=40))
def test_no_answer_gets_out_of_what_a_look_up_can_say(said: object, garbage: bytes) -> None:
    for body in (json.dumps({"works": said}).encode(), json.dumps(said).encode(), garbage):
        try:
            works = read_answer(body)
        except LookUpFailed:
            continue
        assert all(isinstance(work, Work) and work.title for work in works)


def test_the_stand_in_speaks_the_same_language() -> None:
    server = serve()
    try:
        known = HttpService(address=f"http://127.0.0.1:{server.server_address[1]}")
        works = known.search(WorkQuestion(kind=WorkKind.SERIES, title="LANTERN STREET", season=1))
        assert [(work.year, work.season, len(work.episodes)) for work in works] == [
            (2011, 1, 4),
            (2013, 2, 6),
            (1968, 1, 7),
        ]
        assert known.search(WorkQuestion(kind=WorkKind.FILM, title="Nothing like it at all")) == ()
    finally:
        server.shutdown()
    assert len(read_answer(json.dumps({"works": known_works()}).encode())) == len(known_works())
