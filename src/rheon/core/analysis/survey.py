"""Looking and listening at a title in samples, for all that its tables do not say."""

from __future__ import annotations

import contextlib
import hashlib
from collections.abc import Sequence

from ..engine import require, stand_by
from ..errors import EngineError, RheonError
from ..media import CellData, Extent, Scan, Title, mark_of
from ..sources.images.disc_files import pieces
from ..system import check_inside, open_inside
from .borders import find_borders
from .findings import BordersFound, ScanTypeFound, SubtitlesFound, Survey
from .frames import frame_times
from .noise import find_noise
from .pictures import Luma, stored_pictures
from .scan_type import find_scan_type, votes_of
from .sounds import measure_sounds
from .subtitle_lines import count_subtitles

PICTURE_PLACES, PICTURES_EACH = 8, 12
MORE_PLACES = 24
"""So many are looked at where stretches are not all of one kind."""
BORDER_PLACES = 24
"""Borders are only believed when pictures in between have them too, of which a second has one at most."""
SOUND_PLACES = 6
HD_LINES = 720
FINGERPRINT_BYTES = 64 << 10
SURVEY_VERSION = 5
"""Part of every fingerprint: raise it when findings change, and titles are looked at anew."""


def survey_title(title: Title) -> Survey:
    """Look at pictures, sound and subtitles in samples. Raises ``EngineError`` where no picture can be read."""
    require("ffmpeg")
    if title.joined:
        return Survey(parts=tuple(map(survey_title, title.joined)))
    borders, scan_type, noise = _pictures(title)
    sounds = measure_sounds(title, frame_times(title.duration_s, SOUND_PLACES)) if title.audio else ()
    subtitles: tuple[SubtitlesFound, ...] = ()
    stand_by()
    with contextlib.suppress(OSError, RheonError):
        subtitles = count_subtitles(title)
    return Survey(borders=borders, scan_type=scan_type, noise=noise, sounds=sounds, subtitles=subtitles)


def fingerprint(title: Title) -> str:
    """The same for the same material, wherever it lies. Raises ``OSError``."""
    if title.joined:
        return mark_of(*(fingerprint(part) for part in title.joined))
    data = title.data
    size = title.size_bytes
    digest = hashlib.sha256(f"{SURVEY_VERSION}|{size}|{title.duration_s:.3f}|{title.key}".encode())
    extents: Sequence[Extent] = (
        data.extents
        if isinstance(data, CellData)
        else [Extent(path=data.path, offset_bytes=0, length_bytes=check_inside(data.path))]
    )
    for at in (0, size // 2, max(0, size - FINGERPRINT_BYTES)):
        for piece in pieces(extents, at, at + FINGERPRINT_BYTES):
            with open_inside(piece.path) as handle:
                handle.seek(piece.offset_bytes)
                digest.update(handle.read(piece.length_bytes))
    return digest.hexdigest()[:40]


def _pictures(title: Title) -> tuple[BordersFound | None, ScanTypeFound | None, float | None]:
    video = title.video
    if video is None or title.duration_s <= 0 or not video.width or not video.height:
        return None, None, None
    # whole frames of large pictures are believed; measuring them would cost seconds
    fields = video.height <= HD_LINES or video.scan is not Scan.PROGRESSIVE
    each = PICTURES_EACH if fields else 1
    places = frame_times(title.duration_s, PICTURE_PLACES)
    stretches, fault = _looked(title, places, each)
    if not stretches and fault is not None:
        raise fault
    noise = find_noise([stretch for _, stretch in stretches])
    # what is read begins with the picture behind a moment
    step_s = 1 / float(video.frame_rate) if video.frame_rate else 0.0
    seen = [(at_s + (at + 1) * step_s, stretch[at]) for at_s, stretch in stretches for at in {0, len(stretch) - 1}]
    borders = find_borders(seen, noise)
    if borders is not None and (borders.any or borders.often):
        between = frame_times(title.duration_s, min(BORDER_PLACES, int(title.duration_s)))
        more, _ = _looked(title, [at for at in between if at not in places], 1)
        seen += [(at_s + step_s, one[0]) for at_s, one in more]
        borders = find_borders(sorted(seen, key=lambda one: one[0]), noise)
    if not fields:
        sure = ScanTypeFound(scan=video.scan, top_field_first=True, in_fields=False, sure=0.9)
        return borders, sure, noise
    votes = votes_of([stretch for _, stretch in stretches], noise)
    if len({vote.scan for vote in votes}) > 1:
        others = frame_times(title.duration_s, min(MORE_PLACES, int(title.duration_s)))
        more, _ = _looked(title, [at for at in others if at not in places], each)
        votes += votes_of([stretch for _, stretch in more], noise)
    return borders, find_scan_type(votes, video), noise


def _looked(title: Title, places: Sequence[float], each: int) -> tuple[list[tuple[float, Luma]], EngineError | None]:
    """Consecutive pictures at each place where there are any, with the last fault."""
    stretches: list[tuple[float, Luma]] = []
    fault: EngineError | None = None
    for at_s in places:
        try:
            found = stored_pictures(title, at_s, each)
        except EngineError as error:
            fault = error
            continue
        if len(found):
            stretches.append((at_s, found))
    return stretches, fault
