"""What was measured of a cell's balances, in words."""

from __future__ import annotations

from rheon.core.catalogue import later, say
from rheon.core.commands.comparing import Model
from rheon.core.encoding import Fidelity, Point
from rheon.core.planning import Balance

from . import documents
from .actions.fidelity import Measured

SEEN = {
    Model.HD: later("as people judge it on a screen of 1080 lines, 0 to 100"),
    Model.UHD: later("as people judge it on a 4K screen, 0 to 100"),
    Model.PHONE: later("as people judge it on a phone, 0 to 100"),
    None: later("how like structures are, in dB; 3 dB are half as much unlike"),
}


def trade_off_document(known: Measured) -> documents.TradeOff:
    one: Fidelity | None = next((point.score for point in known.points.values()), None)
    return documents.TradeOff(
        possible=known.possible,
        measuring=known.measuring,
        failed=known.failed,
        measure="VMAF" if one and one.model else "SSIM",
        seen=say(SEEN[one.model]) if one else "",
        unit="dB" if one and not one.model else "",
        seconds=one.seconds if one else 0.0,
        missing=known.missing,
        more=known.more,
        scores=[_score(balance, known.points[balance]) for balance in Balance if balance in known.points],
        by_hand=_score(None, known.points[None]) if None in known.points else None,
        smaller=[_smaller(balance, point) for balance, point in known.better.items()],
    )


def _smaller(balance: Balance | None, point: Point) -> documents.SmallerPicture:
    return documents.SmallerPicture(
        balance=balance,
        lines=point.lines,
        mean=point.score.mean,
        worst=point.score.worst,
        size_bytes=point.size_bytes,
        pins=dict(point.pins),
    )


def _score(balance: Balance | None, point: Point) -> documents.Score:
    return documents.Score(balance=balance, mean=point.score.mean, worst=point.score.worst, size_bytes=point.size_bytes)
