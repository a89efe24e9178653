"""What an analysis found about a title, each with how sure it is, and the title with it. Pure."""

from __future__ import annotations

from dataclasses import dataclass, replace

from ..media import COMB_LIMIT, AudioStream, Borders, Forced, Scan, SubtitleStream, Title, VideoStream
from ..media.joined import of_parts

SURE_ENOUGH = 0.6


@dataclass(frozen=True, slots=True, kw_only=True)
class BordersFound:
    """Black lines around the picture, in stored pixels.

    ``often`` are those of a share of the pictures that show less than others; ``widest_at_s`` is a moment with as much
    picture at the edges as any.
    """

    top: int
    bottom: int
    left: int
    right: int
    sure: float
    often: Borders | None = None
    often_share: float = 0.0
    widest_at_s: float | None = None

    @property
    def any(self) -> bool:
        return any((self.top, self.bottom, self.left, self.right))


@dataclass(frozen=True, slots=True, kw_only=True)
class ScanTypeFound:
    """How the frames were taken. ``in_fields``: the film's repeated fields are in the pictures, not only in flags.

    ``comb_limit``: by more than that, in steps of eight bits, lines of its whole pictures hardly differ.
    """

    scan: Scan
    top_field_first: bool
    in_fields: bool
    sure: float
    comb_limit: int = COMB_LIMIT


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundFound:
    """One audio track: loudness (LUFS) and sample peak (dBFS), ``None`` for silence; ``same_as`` an earlier track.

    ``lossless_bps`` is the rate of stretches of it as FLAC.
    """

    index: int
    loudness_lufs: float | None
    peak_dbfs: float | None
    silent: bool
    same_as: int | None
    sure: float
    lossless_bps: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SubtitlesFound:
    """One subtitle track: its lines and how many of them are forced; an estimate where only parts were read."""

    index: int
    lines: int
    forced: int
    sure: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Survey:
    """What was found; what a title does not have, or what could not be read, is ``None`` or missing.

    ``noise`` is its standard deviation in the picture, in steps of eight bits. ``parts`` are those of the parts of a
    joined title, in their order.
    """

    borders: BordersFound | None = None
    scan_type: ScanTypeFound | None = None
    noise: float | None = None
    sounds: tuple[SoundFound, ...] = ()
    subtitles: tuple[SubtitlesFound, ...] = ()
    parts: tuple[Survey, ...] = ()


def with_findings(title: Title, survey: Survey | None) -> Title:
    """The title with everything that is sure enough to plan on."""
    if survey is None:
        return title
    if title.joined:
        pairs = zip(title.joined, survey.parts, strict=False)
        found = [with_findings(part, own) for part, own in pairs]
        return of_parts(title, found) if len(found) == len(title.joined) else title
    return replace(
        title,
        video=_video(title.video, survey) if title.video else None,
        audio=tuple(_audio(track, survey) for track in title.audio),
        subtitles=tuple(_subtitle(track, survey) for track in title.subtitles),
    )


def survey_of_whole(title: Title, survey: Survey) -> Survey:
    """What was found of a title, to be told; of a join what its parts have in common. ``title`` has its findings."""
    if not title.joined or not survey.parts:
        return survey
    looked = [part.borders for part in survey.parts if part.borders is not None]
    edges = title.video.borders if title.video else None
    common = None
    if edges is not None and looked:
        common = BordersFound(
            top=edges.top,
            bottom=edges.bottom,
            left=edges.left,
            right=edges.right,
            sure=min(one.sure for one in looked),
        )
    heard = [sound.sure for part in survey.parts for sound in part.sounds]
    sounds = tuple(
        SoundFound(
            index=track.index,
            loudness_lufs=track.loudness_lufs,
            peak_dbfs=track.peak_dbfs,
            silent=track.silent,
            same_as=None,
            sure=min(heard),
        )
        for track in title.audio
        if heard
    )
    return Survey(borders=common, sounds=sounds)


def _video(video: VideoStream, survey: Survey) -> VideoStream:
    scan_type, edges = survey.scan_type, survey.borders
    if scan_type is not None and scan_type.sure >= SURE_ENOUGH and scan_type.scan is not Scan.UNKNOWN:
        video = replace(
            video,
            scan=scan_type.scan,
            top_field_first=scan_type.top_field_first,
            film_in_fields=scan_type.in_fields,
            comb_limit=scan_type.comb_limit,
        )
    if survey.noise is not None:
        video = replace(video, noise=survey.noise)
    if edges is not None and edges.sure >= SURE_ENOUGH:
        borders = Borders(top=edges.top, bottom=edges.bottom, left=edges.left, right=edges.right)
        video = replace(video, borders=borders, often_black=edges.often)
    return video


def _audio(track: AudioStream, survey: Survey) -> AudioStream:
    found = next((sound for sound in survey.sounds if sound.index == track.index), None)
    if found is None:
        return track
    track = replace(track, lossless_bps=found.lossless_bps)
    if found.sure < SURE_ENOUGH:
        return track
    return replace(track, silent=found.silent, loudness_lufs=found.loudness_lufs, peak_dbfs=found.peak_dbfs)


def _subtitle(track: SubtitleStream, survey: Survey) -> SubtitleStream:
    found = next((subtitle for subtitle in survey.subtitles if subtitle.index == track.index), None)
    if found is None or track.forced is not Forced.UNKNOWN or found.sure < SURE_ENOUGH or not found.lines:
        return track
    if found.forced == 0:
        return replace(track, forced=Forced.NONE)
    return replace(track, forced=Forced.ALL if found.forced == found.lines else Forced.SOME)
