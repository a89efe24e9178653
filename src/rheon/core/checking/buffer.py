"""The least rate at which a stream can be fed to a decoder with a given buffer (ITU-T H.264 annex C, leaky bucket)."""

from __future__ import annotations

from collections.abc import Sequence

PRECISION = 0.005
MOST_ROUNDS = 60


def least_rate_bps(packets: Sequence[tuple[float, int]], buffer_bits: int) -> int:
    """Bits a second for packets of (decoding time in s, size in bytes), with the buffer full before the first.

    Never below the mean rate; a packet larger than the buffer counts as if it just filled it.
    """
    if len(packets) < 2:
        return 0
    span = packets[-1][0] - packets[0][0]
    if span <= 0:
        return 0
    low = high = max(1.0, sum(size for _, size in packets) * 8 / span)
    while not _holds(packets, high, buffer_bits) and high < 1e10:
        low, high = high, high * 2
    for _ in range(MOST_ROUNDS):
        if high - low <= high * PRECISION:
            break
        middle = (low + high) / 2
        if _holds(packets, middle, buffer_bits):
            high = middle
        else:
            low = middle
    return round(high)


def _holds(packets: Sequence[tuple[float, int]], rate_bps: float, buffer_bits: int) -> bool:
    fill, before = float(buffer_bits), packets[0][0]
    for at, size in packets:
        fill = min(float(buffer_bits), fill + (at - before) * rate_bps)
        fill -= min(size * 8, buffer_bits)
        if fill < -1e-6:
            return False
        before = at
    return True
