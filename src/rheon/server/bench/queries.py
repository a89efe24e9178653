"""Reading the Bench: its rows and columns, the plan sheet, verdicts, and what several devices can share."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from rheon.core.analysis import Survey
from rheon.core.catalogue import say
from rheon.core.descriptions import settings_text, summary
from rheon.core.devices import DeviceProfile, RuleResult, Verdict, goals, judge_title
from rheon.core.errors import BadPin, PlanError
from rheon.core.media import Borders, KeptRange, Role, mark_of
from rheon.core.media import Title as CoreTitle
from rheon.core.media.kept import first_picture_s, steady_rate
from rheon.core.planning import (
    NO_PINS,
    Balance,
    Breach,
    Decision,
    DecisionChange,
    Plan,
    PlanRequest,
    Shared,
    kind_of,
    minute_within,
    plan,
    played_sounds,
    set_upright,
    shaping,
    share_files,
    switched_subtitles,
)
from rheon.core.wording import consequence, missing_sentences, rule_name, sentence, sides
from rheon.server.household.models import Device, Household
from rheon.server.household.queries import devices as household_devices
from rheon.server.household.wishes import household_wishes, liked
from rheon.server.shelf.actions.frames import STRIP, scrub_count
from rheon.server.shelf.models import Title

from . import documents
from .models import PinSet, Target, TargetKind
from .planning import bench_balance, request_for, stored_override
from .targets import targets


def table_document() -> documents.Table:
    """Picked titles down, targets across; the cells are asked for by themselves."""
    titles = Title.objects.filter(pick__isnull=False).only("pk", "name", "role", "duration_s", "outline", "source_id")
    return documents.Table(
        balance=bench_balance(),
        titles=[_row(title) for title in titles],
        targets=[_target(target) for target in targets()],
    )


def sheet_document(title: Title, target: Target, changed: Sequence[DecisionChange] = ()) -> documents.Sheet:
    """One cell in full. Raises ``BadPin`` where what was set by hand fits no more, or ``PlanError``."""
    override = stored_override(title.pk, target.pk)
    try:
        request = request_for(title, target, override)
        made = plan(request)
    except BadPin as error:
        raise BadPin(
            "Something that was set by hand can't be meant here any more. {what}",
            what=error.what,
            advice="Take it back, and Rheon chooses there again.",
        ) from error
    return documents.Sheet(
        title_id=title.pk,
        title_name=title.name,
        source_name=title.source.name,
        target_id=target.pk,
        target_name=target.name,
        device_kind=target.device_kind,
        screen=_screen(request.devices),
        duration_s=title.duration_s,
        chapters=title.outline.get("chapters", []),
        kept=_kept(made),
        first_picture_s=first_picture_s(request.title),
        picture_s=1 / rate if (rate := steady_rate(request.title.video)) else None,
        strip=STRIP if request.title.video else 0,
        scrub=scrub_count(title.duration_s) if request.title.video else 0,
        sound_track=_sound_track(made, request.title),
        sounds=_played(played_sounds(request.title, made.settings)) if made.settings else [],
        subtitles=_played(switched_subtitles(request.title, made.settings)) if made.settings else [],
        balance=request.balance,
        own_balance=bool(override and override.balance),
        treatment=made.treatment,
        reason=sentence(made.reason),
        decisions=[decision_document(decision, made) for decision in made.decisions],
        breaches=[_breach(breach) for breach in made.breaches],
        missing=list(missing_sentences(request.title)),
        changed=[_change(change) for change in changed],
        pins=list(request.pins.said),
        estimate=made.estimate,
        sampled=title.samples is not None,
        steps=[_step(request, balance) for balance in Balance] if made.settings else [],
        limit_bytes=min((limit for p in request.devices if (limit := p.limits.largest_file_bytes)), default=None),
        free_bytes=target.free_bytes,
        has_minute=made.settings is not None and bool(minute_within(request.title, made.settings)),
        frame=_frame(made),
        framing=_framing(made, request, title.core_survey()),
        look=look_of(made),
        settings_mark=mark_of(made.settings),
        rules=_rules(made.rules),
        siblings=Title.objects.filter(source=title.source, role=title.role).exclude(pk=title.pk).count(),
        picked=Title.objects.filter(pick__isnull=False).exclude(pk=title.pk).count(),
        sets=[set_document(row) for row in PinSet.objects.all()],
    )


def _sound_track(made: Plan, title: CoreTitle) -> int | None:
    """The track that the file plays, else the title's first."""
    if made.settings and made.settings.sound:
        return made.settings.sound.track
    return title.audio[0].index if title.audio else None


def _played(names: Sequence[str]) -> list[documents.PlayedTrack]:
    return [documents.PlayedTrack(place=place, text=name) for place, name in enumerate(names)]


def _kept(made: Plan) -> tuple[KeptRange, ...]:
    return made.settings.kept if made.settings else ()


def verdicts_document(title: Title) -> documents.Verdicts:
    """Which of the household's devices play this title as it is, rule by rule."""
    core = title.core_title()
    everyone = household_wishes()
    return documents.Verdicts(
        title_id=title.pk,
        title_name=title.name,
        devices=[_verdict(core, device, everyone) for device in household_devices()],
    )


def sharing_document(title: Title, devices: Sequence[Device]) -> documents.Sharing:
    """The smallest set of files that serves these devices."""
    if not devices:
        return documents.Sharing(title_id=title.pk, files=[], as_it_is=[], impossible=[])
    core = title.core_title()
    rows = {f"{device.core_profile().id}-{device.pk}": device for device in devices}
    profiles = tuple(device.core_profile().model_copy(update={"id": key}) for key, device in rows.items())
    base = request_for(title, devices[0].target, None, core)
    found = share_files(replace(base, devices=profiles, pins=NO_PINS))
    return documents.Sharing(
        title_id=title.pk,
        files=[_shared(base, shared, rows) for shared in found.files],
        as_it_is=[rows[profile.id].pk for profile in found.as_it_is],
        impossible=[rows[profile.id].pk for profile in found.impossible],
    )


def goals_document() -> list[documents.Goal]:
    """What files can be made for beside devices, and whether the Bench has it already."""
    there = set(Target.objects.exclude(goal="").values_list("goal", flat=True))
    return [
        documents.Goal(id=profile.id, name=profile.name, about=profile.about, on_bench=profile.id in there)
        for profile in goals().values()
    ]


def set_document(row: PinSet) -> documents.PinSet:
    return documents.PinSet(id=row.pk, name=row.name, pins=len(row.pins))


def decision_document(decision: Decision, made: Plan) -> documents.Decision:
    kind = kind_of(decision.key)
    return documents.Decision(
        key=decision.key,
        group=kind.group,
        label=say(kind.label),
        help=say(kind.help),
        value=decision.value,
        text=decision.text,
        reason=sentence(decision.reason),
        pinned=decision.pinned,
        fine=decision.fine,
        choices=decision.choices,
        ranges=decision.ranges,
        broken=[_breach(breach) for breach in made.breaches if breach.rule in kind.rules],
    )


def _breach(breach: Breach) -> documents.Breach:
    measured, allowed = sides(breach.measured, breach.allowed)
    return documents.Breach(
        device=breach.device_name,
        rule=rule_name(breach.rule),
        measured=measured,
        allowed=allowed,
        consequence=consequence(breach.rule, unsure=breach.unsure),
    )


def _change(change: DecisionChange) -> documents.DecisionChange:
    return documents.DecisionChange(
        label=say(kind_of(change.key).label),
        before=change.before,
        after=change.after,
        reason=sentence(change.reason) if change.reason else "",
    )


def _rules(rules: Sequence[RuleResult]) -> list[documents.Rule]:
    return [rule_document(rule) for rule in rules]


def rule_document(rule: RuleResult) -> documents.Rule:
    """A rule with both sides, in the words people use."""
    measured, allowed = sides(rule.measured, rule.allowed)
    return documents.Rule(rule=rule_name(rule.rule), ok=rule.ok, measured=measured, allowed=allowed)


def _verdict(core: CoreTitle, device: Device, everyone: Household) -> documents.DeviceVerdict:
    judged = judge_title(core, device.core_profile(), liked(device, everyone).languages)
    rules = judged.rules if judged.verdict is not Verdict.CANNOT else ()
    return documents.DeviceVerdict(
        device_id=device.pk,
        target_id=device.target.pk,
        name=device.name,
        kind=device.core_profile().kind,
        verdict=judged.verdict,
        reason=sentence(judged.reason),
        rules=_rules(rules),
    )


def _shared(base: PlanRequest, shared: Shared, rows: dict[str, Device]) -> documents.SharedFile:
    settings = shared.plan.settings
    video = settings.video if settings else None
    return documents.SharedFile(
        device_ids=[rows[profile.id].pk for profile in shared.devices],
        summary=settings_text(settings) if settings else "",
        estimate=shared.plan.estimate,
        costs=[
            text for profile in shared.devices if (text := _cost(base, profile, rows, video.height if video else 0))
        ],
    )


def _cost(base: PlanRequest, profile: DeviceProfile, rows: dict[str, Device], lines: int) -> str:
    """What a device loses by sharing, in a sentence; empty where that is nothing."""
    try:
        alone = plan(replace(base, devices=(profile,), pins=NO_PINS), explained=False)
    except PlanError:
        return ""
    own = alone.settings.video if alone.settings else None
    if own is None or own.height <= lines:
        return ""
    return say(
        "{device} gets {lines} lines instead of {own}", device=rows[profile.id].name, lines=lines, own=own.height
    )


def _row(title: Title) -> documents.Row:
    return documents.Row(
        id=title.pk,
        name=title.name,
        role=Role(title.role),
        duration_s=title.duration_s,
        size_bytes=title.outline.get("size_bytes", 0),
        detail=title.outline.get("detail", ""),
    )


def _target(target: Target) -> documents.Target:
    served = target.recipients
    profile = served[0].profile if len(served) == 1 else None
    return documents.Target(
        id=target.pk,
        kind=TargetKind(target.kind),
        device_id=target.device_id,
        name=target.name,
        device_kind=target.device_kind,
        model=profile.name if profile else say("one file for {count} devices", count=len(served)),
        detail=summary(profile) if profile else ", ".join(recipient.name for recipient in served),
        free_bytes=target.free_bytes,
        largest_file_bytes=target.largest_file_bytes,
        used=target.device.used if target.device else target.used,
    )


def _step(request: PlanRequest, balance: Balance) -> documents.Step:
    made = plan(replace(request, balance=balance), explained=False)
    return documents.Step(balance=balance, estimate=made.estimate)


def _screen(profiles: Sequence[DeviceProfile]) -> documents.Size | None:
    """The screen on which the picture is shown; the largest where there are several."""
    screens = [profile.screen for profile in profiles if profile.screen]
    best = max(screens, key=lambda screen: screen.width * screen.height, default=None)
    return documents.Size(width=best.width, height=best.height) if best else None


def _frame(made: Plan) -> documents.Size | None:
    """The shape of the picture that comes out, in square pixels."""
    video = made.settings.video if made.settings else None
    if video is None:
        return None
    return documents.Size(width=round(video.width * video.sample_aspect), height=video.height)


def _framing(made: Plan, request: PlanRequest, survey: Survey | None) -> documents.Framing | None:
    """The whole picture, where what is cut of it can be chosen: not of titles that are put together of others, nor
    where every track is kept as it is.
    """
    source, video = request.title.video, made.settings.video if made.settings else None
    shown = video is not None or made.treatment is Verdict.PLAYS
    if source is None or not shown or request.title.joined or any(device.faithful for device in request.devices):
        return None
    upright = set_upright(source, request.pins)
    width, height = upright.upright_size
    return documents.Framing(
        width=width,
        height=height,
        aspect=float(upright.display_aspect),
        rotation=-upright.rotation % 360,
        cut=_sides(video.crop if video else Borders()),
        found=_sides(source.borders) if source.borders else None,
        often=_sides(source.often_black) if source.often_black else None,
        widest_at_s=survey.borders.widest_at_s if survey and survey.borders else None,
        shaping=[decision_document(decision, made) for decision in shaping(request, made)],
    )


def _sides(cut: Borders) -> documents.Sides:
    return documents.Sides(top=cut.top, bottom=cut.bottom, left=cut.left, right=cut.right)


def look_of(made: Plan) -> str:
    """A mark of everything that changes how the picture looks."""
    settings = made.settings
    if settings is None or settings.video is None:
        return ""
    video = settings.video
    size = (video.width, video.height, video.sample_aspect)
    seen = (*size, video.crop, video.rotation, video.fields, video.colour, settings.drawn)
    smoothed = (video.top_field_first, video.deinterlacer, video.denoise, video.deband)
    return mark_of(*seen, *smoothed)
