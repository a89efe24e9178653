"""What is to be made: a title, its settings, and the file to write. Pure."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from fractions import Fraction

from ...formats import CONTAINERS
from ...media import Action, CellData, FileData, OutputSettings, StreamKind, SubtitleForm, SubtitleSettings, Title
from ...media.kept import EARLY
from ..inputs import read_before_s
from .filters import phase_of

ON_TIME = 0.05
"""A picture that lies so little (of its time) before a moment still comes at it: times are rounded."""
RESERVE_S = 0.6
SOON_S = 0.25
"""Up to so late a first picture begins at once in a container without times; later ones are waited for."""


def for_piece(made: OutputSettings, number: int) -> OutputSettings:
    """The settings with what is done to the picture of one piece, where that is not the same for all."""
    own = made.video.parts if made.video else ()
    return replace(made, video=own[number]) if own else made


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """What is to be made: a title, the settings, and the file to write. Runs in a folder that holds the helpers.

    ``pieces`` are what the file is concatenated from where that is several; ``title`` is then what they make together,
    or, in the view of one of them (``piece``), that piece, which is number ``number`` of the engine's inputs;
    ``in_join`` says that it is a part of a joined title. ``parts_late_s``: so long after the first moment of
    parts that are copied the first picture comes, which has to lie where the first of sound that is made anew does.
    ``smooth`` are the seams, by the number of the piece before them, over which the sound goes on by itself.
    ``picture_at_s``: when the first picture comes where pictures are copied between encoded edges. ``read_along``:
    somebody reads the file while it is written, which is a Matroska one then, whatever it would be.
    """

    title: Title
    settings: OutputSettings
    target: str
    pieces: tuple[Title, ...] = ()
    number: int = 0
    in_join: bool = False
    parts_late_s: float = 0.0
    smooth: frozenset[int] = frozenset()
    picture_at_s: float = 0.0
    read_along: bool = False

    def piece(self, number: int) -> Job:
        """One of the pieces, as if it were all."""
        return replace(
            self,
            title=self.pieces[number],
            settings=for_piece(self.settings, number),
            number=number,
            in_join=bool(self.title.joined),
        )

    @property
    def each(self) -> list[Job]:
        """A view of each piece; of the title itself where that is all."""
        return [self.piece(number) for number in range(len(self.pieces))] or [self]

    @property
    def inputs(self) -> int:
        """How many of the engine's inputs are the title itself; the last one where its pictures come from elsewhere."""
        return max(1, len(self.pieces)) + (self.copies_parts or self.has_edges)

    @property
    def copies_parts(self) -> bool:
        """Whether parts that are files are read once more, one after the other, to be copied."""
        return bool(self.title.joined and self.pieces) and self.copies_picture

    @property
    def has_edges(self) -> bool:
        """Whether the picture comes on a pipe of its own: copied, between edges that were encoded."""
        return bool(self.settings.middles) and self.copies_picture

    @property
    def subpictures(self) -> tuple[int, ...]:
        """Ids of the subpicture streams that the input must declare at its front."""
        data = self.title.data
        if isinstance(data, FileData) or data.stream is StreamKind.TRANSPORT:
            return ()
        wanted = [self.title.subtitles[subtitle.track] for subtitle in self.settings.subtitles if not subtitle.is_text]
        return tuple(track.stream_id for track in wanted if track.stream_id is not None)

    @property
    def cores(self) -> frozenset[int]:
        """Packet ids of TrueHD tracks of which only the AC-3 core goes into the output."""
        tracks = [self.title.audio[sound.track] for sound in self.settings.audio]
        return frozenset(track.stream_id for track in tracks if track.is_core and track.stream_id is not None)

    @property
    def decodes_picture(self) -> bool:
        return self.settings.video is not None and self.settings.video.action is Action.ENCODE

    @property
    def copies_picture(self) -> bool:
        return self.settings.video is not None and not self.decodes_picture

    @property
    def carries_chapters(self) -> bool:
        return bool(self.title.chapters) and self.settings.chapters and CONTAINERS[self.settings.container].chapters

    @property
    def side_tracks(self) -> tuple[SubtitleSettings, ...]:
        """Subtitle tracks that lie in files of their own and go along as tracks or files."""
        return tuple(
            subtitle
            for subtitle in self.settings.subtitles
            if subtitle.form is not SubtitleForm.DRAWN and self.title.subtitles[subtitle.track].path is not None
        )

    @property
    def own_zero(self) -> bool:
        """Whether the title's first moment is zero by a disc's own clock, and not by what its data begin with."""
        return isinstance(self.title.data, CellData) and self.title.data.start_pts is not None

    @property
    def lead_s(self) -> float:
        """How much before a part of a file is read, to be dropped when it is decoded."""
        data, made = self.title.data, self.settings
        if isinstance(data, CellData) or self.title.part_of is None:
            return 0.0
        if self.copies_picture and (self.in_join or (self.has_edges and self.pieces)):
            # which is copied from another input
            return read_before_s(self.title, data.from_s)
        streams = (*((made.video,) if made.video else ()), *made.audio)
        copied = any(stream.action is Action.COPY for stream in streams)
        tracks = any(one.form is not SubtitleForm.DRAWN for one in made.subtitles if one not in self.side_tracks)
        return 0.0 if copied or tracks else read_before_s(self.title, data.from_s)

    @property
    def reserve_s(self) -> float:
        """How much behind a part of a file is read, where it is cut later: by the graph, or packet by packet."""
        return RESERVE_S if self.pieces or (self.settings.kept and self.copies_picture) else 0.0

    @property
    def phase_s(self) -> float:
        """How much earlier everything comes, so that the first picture lies on a tick of the output's frame rate.

        Where a container keeps no times, the first picture (or a copied sound) is its first moment.
        """
        made, video = self.settings.video, self.title.video
        if made is None or video is None or video.span is None or made.variable_rate:
            return 0.0
        keeps_start = CONTAINERS[self.settings.container].keeps_start
        first_s = self._first_picture_s(video.span.start_s, video.frame_rate)
        if made.action is Action.COPY:
            # a container without times puts a copied picture on the nearest tick: the sound goes along
            nearest_s = round(first_s * float(video.frame_rate)) / float(video.frame_rate)
            return 0.0 if keeps_start or self.own_zero else first_s - nearest_s
        # a stretch begins that much before its first picture, whatever rate comes out
        begins = first_s * float(video.frame_rate) <= EARLY + ON_TIME / 10
        if begins or (not keeps_start and first_s <= SOON_S):
            return first_s if first_s > 1e-4 else 0.0
        phase_s = phase_of(first_s, made.frame_rate)
        return phase_s if abs(phase_s) > 1e-4 else 0.0

    def _first_picture_s(self, start_s: float, rate: Fraction) -> float:
        """When the first picture of a file, or of a part of one, is shown, counted from the file's or part's start."""
        from_s = self.title.data.from_s if isinstance(self.title.data, FileData) else 0.0
        behind = max(0, math.ceil((from_s - start_s) * float(rate) - ON_TIME))
        return max(0.0, start_s + behind / float(rate) - from_s)
