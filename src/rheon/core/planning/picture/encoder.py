"""Software or hardware: what makes the picture. Pure."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ...formats import VideoEncoder, video_encoder
from ...media import HardwareEncoder, Reason
from ..decisions import PINNED
from ..decisions.picture import ENCODER, PASSES, PRESET, RATE
from ..decisions.picture.encoder import ANY_HARDWARE, SOFTWARE
from ..decisions.picture.passes import ONE
from ..decisions.picture.rate import QUALITY
from ..request import PlanRequest


@dataclass(frozen=True, slots=True, kw_only=True)
class EncoderChoice:
    """``hardware`` is what was tried of it on this machine, where the encoder is in hardware; ``offered`` are families
    that could make this picture.
    """

    encoder: VideoEncoder
    reason: Reason
    hardware: HardwareEncoder | None = None
    offered: tuple[str, ...] = ()

    @property
    def size_share(self) -> float:
        """How large files become beside those of software at the same fidelity: measured, else usual."""
        if self.hardware is None:
            return 1.0
        usual = self.encoder.bits_per_pixel / video_encoder(self.hardware.codec).bits_per_pixel
        return self.hardware.size_share or usual

    def by_software(self, codec: str, code: str) -> EncoderChoice:
        """The same picture by software, for another reason."""
        return replace(self, encoder=video_encoder(codec), hardware=None, reason=Reason(code=code))


def choose_encoder(request: PlanRequest, codec: str, depth: int, profile: str | None) -> EncoderChoice:
    """Software, unless speed is preferred or hardware was set by hand, and it can do what the picture needs."""
    software = video_encoder(codec)
    able = tuple(_able(request, codec, depth, profile))
    families = tuple(dict.fromkeys(one.family for one in able))
    plain = EncoderChoice(encoder=software, reason=_why_software(request, able), offered=families)
    wished = request.pins.of(ENCODER)
    if request.hardware_failed:
        return replace(plain, reason=Reason(code="encoder_failed"))
    if wished == SOFTWARE:
        return replace(plain, reason=PINNED)
    if wished is not None:
        found = next((one for one in able if wished in (ANY_HARDWARE, one.family)), None)
        if found is None:
            return replace(plain, reason=Reason(code="encoder_absent"))
        return _by(found, families, PINNED)
    if request.machine.prefers_speed and able and not _needs_software(request):
        return _by(able[0], families, Reason(code="encoder_quick"))
    return plain


def _by(found: HardwareEncoder, families: tuple[str, ...], reason: Reason) -> EncoderChoice:
    encoder = video_encoder(found.codec, found.name)
    return EncoderChoice(encoder=encoder, reason=reason, hardware=found, offered=families)


def _able(request: PlanRequest, codec: str, depth: int, profile: str | None) -> Iterator[HardwareEncoder]:
    """What of this machine's hardware makes such a picture."""
    for one in request.machine.encoders:
        if one.codec != codec or depth not in one.depths:
            continue
        written = video_encoder(codec, one.name).written_profiles
        if profile is None or profile in written:
            yield one


def _needs_software(request: PlanRequest) -> bool:
    """Whether something was set by hand that only software does."""
    pins = request.pins
    rate = pins.of(RATE)
    return PRESET in pins or (PASSES in pins and pins.of(PASSES) != ONE) or (rate is not None and rate.mode == QUALITY)


def _why_software(request: PlanRequest, able: tuple[HardwareEncoder, ...]) -> Reason:
    if not able:
        return Reason(code="encoder_only_software")
    if request.machine.prefers_speed:
        return Reason(code="encoder_set_by_hand")
    return Reason(code="encoder_software")
