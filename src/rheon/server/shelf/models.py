"""Sources and their titles."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from django.db import models

from rheon.core.analysis import Survey, with_findings
from rheon.core.chapters import plain
from rheon.core.look_up.works import Work
from rheon.core.media import Cover, MeasuredRate, ProposedTags, Role, Samples
from rheon.core.media import Title as CoreTitle
from rheon.core.media.documents import load
from rheon.core.naming.proposing import looked_up, set_by_hand
from rheon.core.sources.roles.parts import other_angle
from rheon.server.claims import Leased

from .folders import data_inside


class SourceState(models.TextChoices):
    WAITING = "waiting"
    READING = "reading"
    READY = "ready"
    FAILED = "failed"
    STOPPED = "stopped"
    MISSING = "missing"


class Source(Leased):
    """Something to read from; the lease is of the process that reads it.

    ``stamp`` tells whether its files changed since they were read, ``mark`` is the same for the same content elsewhere.
    ``drive`` is the place among the drives of the one that its disc lies in. ``series`` is the same for the discs of
    one season, of which it is the number ``disc``.
    """

    path = models.TextField(unique=True)
    name = models.CharField(max_length=200)
    named_by_hand = models.BooleanField(default=False)
    label = models.CharField(max_length=200, blank=True)
    kind = models.CharField(max_length=10, blank=True)
    form = models.CharField(max_length=10, blank=True)
    size_bytes = models.BigIntegerField(default=0)
    state = models.CharField(max_length=10, choices=SourceState, default=SourceState.WAITING)
    at_title = models.PositiveIntegerField(default=0)
    title_count = models.PositiveIntegerField(default=0)
    stop_requested = models.BooleanField(default=False)
    error_code = models.CharField(max_length=40, blank=True)
    error_message = models.TextField(blank=True)
    problems = models.JSONField(default=list)
    stamp = models.CharField(max_length=64, blank=True)
    mark = models.CharField(max_length=64, blank=True, db_index=True)
    drive = models.PositiveIntegerField(null=True)
    series = models.CharField(max_length=220, blank=True, db_index=True)
    disc = models.PositiveIntegerField(default=0)
    added = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]


class FilmFolder(models.Model):
    """A folder of which everything is taken onto the Shelf; ``looked`` is when it was last gone through."""

    path = models.TextField(unique=True)
    found = models.PositiveIntegerField(default=0)
    looked = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class Title(models.Model):
    """One playable programme. ``document`` is the core's value; ``outline`` is what the Shelf's list shows of it.

    What people set by hand (``role_by_hand``, ``named_by_hand``, ``chapters_by_hand``, ``angle``, ``tags_by_hand``,
    ``cover_by_hand``) outlives a re-scan. ``chapters_by_hand`` are pairs of a moment in seconds and a name;
    ``None`` where the title has those it was read with. ``tags_found`` is what the work seems to be called
    (``core.naming``), ``looked_up`` which of the tags by hand were taken from what a service knows: its address,
    what the work is called there, and their values. ``measured_rates`` is what pictures of its files take, by their
    marks, and ``measured_at`` when that was last found out.
    """

    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="titles")
    key = models.CharField(max_length=500)
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=220)
    named_by_hand = models.BooleanField(default=False)
    duration_s = models.FloatField()
    role = models.CharField(max_length=12, choices=[(role.value, role.value) for role in Role])
    role_by_hand = models.BooleanField(default=False)
    chapters_by_hand = models.JSONField(null=True)
    cover_by_hand = models.JSONField(null=True)
    angle = models.PositiveIntegerField(default=1)
    tags_found = models.JSONField(null=True)
    tags_by_hand = models.JSONField(default=dict)
    looked_up = models.JSONField(null=True)
    document = models.JSONField()
    outline = models.JSONField(default=dict)
    samples = models.JSONField(null=True)
    measured_rates = models.JSONField(default=dict)
    measured_at = models.DateTimeField(null=True)
    samples_failed = models.BooleanField(default=False)
    survey = models.JSONField(null=True)
    survey_failed = models.BooleanField(default=False)

    class Meta:
        ordering = ["source_id", "number"]
        constraints = [models.UniqueConstraint(fields=["source", "key"], name="title_key_in_source")]

    def core_title(self) -> CoreTitle:
        """The title as it was read, with what was found out about it and what was set by hand."""
        title = with_findings(load(CoreTitle, self.document), self.core_survey())
        if self.chapters_by_hand is not None:
            title = replace(title, chapters=plain(self.chapters_by_hand))
        if self.cover_by_hand is not None:
            title = replace(title, cover=load(Cover, self.cover_by_hand))
        return other_angle(title, self.angle) if 1 < self.angle <= title.angles else title

    def tags(self) -> ProposedTags:
        """What is known of the work: what was set by hand, its name if that was, and what was found."""
        found = load(ProposedTags, self.tags_found) if self.tags_found else ProposedTags()
        named = {"title": self.name} if self.named_by_hand else {}
        by_hand = set_by_hand({**named, **self.tags_by_hand})
        if not self.looked_up:
            return by_hand.over(found)
        values = self.looked_up["values"].items()
        taken = {tag: value for tag, value in values if self.tags_by_hand.get(tag) == value}
        return looked_up(taken, self.looked_up["service"], self.looked_up["work"]).over(by_hand).over(found)

    @property
    def set_for_files(self) -> bool:
        """Whether somebody has set what goes into its files."""
        return bool(self.tags_by_hand or self.cover_by_hand) or self.chapters_by_hand is not None

    def forget_looks(self) -> None:
        """What was found out about other material says nothing of this."""
        self.samples = self.survey = None
        self.measured_rates = {}
        self.samples_failed = self.survey_failed = False

    def core_samples(self) -> Samples | None:
        return load(Samples, self.samples) if self.samples else None

    def core_measured_rates(self) -> Mapping[str, MeasuredRate]:
        return {mark: load(MeasuredRate, one) for mark, one in self.measured_rates.items()}

    def core_survey(self) -> Survey | None:
        return load(Survey, self.survey) if self.survey else None

    def readable_title(self) -> CoreTitle:
        """The title for reading its data. Raises ``OutsideFolders`` where they have moved out of the media folders."""
        return data_inside(self.core_title())


class Answer(models.Model):
    """What a look-up service knew by some words: pairs of a name and a value, as they were sent to it."""

    service = models.TextField()
    words = models.TextField()
    works = models.JSONField()
    at = models.DateTimeField(db_index=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["service", "words"], name="one_answer_to_words")]

    def found(self) -> tuple[Work, ...]:
        return tuple(load(Work, work) for work in self.works)


class Part(models.Model):
    """A range of chapters that somebody made a title of its own."""

    source = models.ForeignKey(Source, on_delete=models.CASCADE, related_name="parts")
    title_key = models.CharField(max_length=500)
    first = models.PositiveIntegerField()
    last = models.PositiveIntegerField()

    class Meta:
        ordering = ["title_key", "first"]


class Join(models.Model):
    """What a title is made of that somebody joined of others; it stands on the source of the first.

    ``members`` are pairs of a source's row and a title's key, in their order: rows of titles come and go with scans.
    """

    title = models.OneToOneField(Title, on_delete=models.CASCADE, related_name="join")
    members = models.JSONField(default=list)

    class Meta:
        ordering = ["id"]


class Finding(models.Model):
    """What was found out about some material, by the mark of its content: it need not be found out twice."""

    mark = models.CharField(max_length=40, unique=True)
    document = models.JSONField()
    added = models.DateTimeField(auto_now_add=True)
