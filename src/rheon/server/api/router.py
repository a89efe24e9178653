"""Every address of the API, place by place."""

from django.urls import path
from drf_spectacular.views import SpectacularAPIView

from rheon.server.bench import api as bench
from rheon.server.bench import media as bench_media
from rheon.server.home import api as home
from rheon.server.household import api as household
from rheon.server.live.documents import Live
from rheon.server.outbox import api as outbox
from rheon.server.outbox import media as outbox_media
from rheon.server.shelf import api as shelf
from rheon.server.shelf import media as shelf_media
from rheon.server.worklist import api as worklist

from .schema import declared

declared(Live)
"""What the live stream's events hold: no operation answers with it."""
urlpatterns = [
    path("schema", SpectacularAPIView.as_view()),
    path("health", home.Health.as_view()),
    path("session", home.TheSession.as_view()),
    path("session/others", home.OtherSessions.as_view()),
    path("home", home.TheHome.as_view()),
    path("home/hardware", home.TheHardware.as_view()),
    path("shelf/film-folders", shelf.FilmFolders.as_view()),
    path("shelf/film-folders/<int:folder_id>", shelf.OneFilmFolder.as_view()),
    path("shelf/sources", shelf.Sources.as_view()),
    path("shelf/sources/<int:source_id>", shelf.OneSource.as_view()),
    path("shelf/sources/<int:source_id>/stop", shelf.StopReading.as_view()),
    path("shelf/sources/<int:source_id>/read-again", shelf.ReadAgain.as_view()),
    path("shelf/titles/<int:title_id>", shelf.OneTitle.as_view()),
    path("shelf/sources/<int:source_id>/find-again", shelf.FindAgain.as_view()),
    path("shelf/look-over", shelf.LookOver.as_view()),
    path("shelf/titles/<int:title_id>/chapters/<int:number>", shelf.OneChapter.as_view()),
    path("shelf/titles/<int:title_id>/parts", shelf.Parts.as_view()),
    path("shelf/joins", shelf.Joins.as_view()),
    path("shelf/joins/<int:title_id>", shelf.OneJoin.as_view()),
    path("shelf/titles/<int:title_id>/proposals", shelf.Proposals.as_view()),
    path("shelf/titles/<int:title_id>/levels", shelf.Levels.as_view()),
    path("shelf/titles/<int:title_id>/scene", shelf.NextScene.as_view()),
    path("shelf/titles/<int:title_id>/frames/<int:number>.jpg", shelf_media.frame),
    path("shelf/titles/<int:title_id>/strip/<int:number>.jpg", shelf_media.strip),
    path("shelf/titles/<int:title_id>/scrub/<int:number>.jpg", shelf_media.scrub),
    path("shelf/titles/<int:title_id>/moments/<int:at_ms>.jpg", shelf_media.moment),
    path("shelf/titles/<int:title_id>/artwork.jpg", shelf_media.artwork),
    path("shelf/titles/<int:title_id>/snippet.mp4", shelf_media.snippet),
    path("shelf/drives", shelf.Drives.as_view()),
    path("shelf/drives/<int:number>/tray", shelf.DriveTray.as_view()),
    path("shelf/drives/<int:number>/read", shelf.ReadDisc.as_view()),
    path("shelf/folders", shelf.Folders.as_view()),
    path("household", household.TheHousehold.as_view()),
    path("household/devices", household.Devices.as_view()),
    path("household/members", household.Members.as_view()),
    path("household/members/<int:member_id>", household.OneMember.as_view()),
    path("household/pairing", household.ThePairing.as_view()),
    path("household/profile-check", household.ProfileCheck.as_view()),
    path("household/profiles/<str:profile_id>", household.CatalogueProfile.as_view()),
    path("household/finding", household.Finding.as_view()),
    path("household/own-devices", household.OwnDevices.as_view()),
    path("household/devices/<int:device_id>/profile.json", household.profile_file),
    path("household/devices/<int:device_id>/answers", household.DeviceAnswers.as_view()),
    path("household/devices/<int:device_id>/trials", household.DeviceTrials.as_view()),
    path("household/devices/<int:device_id>/asked", household.DeviceAsked.as_view()),
    path("household/devices/<int:device_id>/kind", household.DeviceKindAgain.as_view()),
    path("household/devices/<int:device_id>/news", household.DeviceNews.as_view()),
    path("household/devices/<int:device_id>", household.OneDevice.as_view()),
    path("bench", bench.Table.as_view()),
    path("bench/picks", bench.Picks.as_view()),
    path("bench/cells", bench.Cells.as_view()),
    path("bench/goals", bench.Goals.as_view()),
    path("bench/targets", bench.Targets.as_view()),
    path("bench/targets/<int:target_id>", bench.OneTarget.as_view()),
    path("bench/titles/<int:title_id>/verdicts", bench.Verdicts.as_view()),
    path("bench/titles/<int:title_id>/sharing", bench.Sharing.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>", bench.Sheet.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/trade-off", bench.TradeOff.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/fidelity", bench.FidelityOfCell.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/time", bench.TimeOfCell.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/transfer", bench.Transfer.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/series", bench.CutSeries.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/sets", bench.SetsOfCell.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/sets/<int:set_id>", bench.SetOfCell.as_view()),
    path("bench/plans/<int:title_id>/<int:target_id>/moments/<int:at_ms>/before.jpg", bench_media.before),
    path("bench/plans/<int:title_id>/<int:target_id>/moments/<int:at_ms>/after.jpg", bench_media.after),
    path("bench/plans/<int:title_id>/<int:target_id>/moments/<int:at_ms>/whole.jpg", bench_media.whole),
    path("bench/plans/<int:title_id>/<int:target_id>/moments/<int:at_ms>/excerpt.mp4", bench_media.excerpt),
    path("bench/sets", bench.Sets.as_view()),
    path("bench/sets/<int:set_id>", bench.OneSet.as_view()),
    path("bench/sets/<int:set_id>/pins.json", bench.set_file),
    path("worklist", worklist.TheWorklist.as_view()),
    path("worklist/jobs", worklist.Jobs.as_view()),
    path("worklist/order", worklist.Order.as_view()),
    path("worklist/copies", worklist.Copies.as_view()),
    path("worklist/samples", worklist.Samples.as_view()),
    path("worklist/jobs/<int:job_id>/plan", worklist.PlanOfJob.as_view()),
    path("worklist/changes", worklist.Changes.as_view()),
    path("worklist/pace", worklist.Pace.as_view()),
    path("worklist/hours", worklist.OpenHours.as_view()),
    path("worklist/end", worklist.End.as_view()),
    path("worklist/hours/now", worklist.OpenNow.as_view()),
    path("worklist/machine", worklist.Machine.as_view()),
    path("worklist/machine/battery", worklist.Battery.as_view()),
    path("worklist/machine/others", worklist.OtherPrograms.as_view()),
    path("worklist/history", worklist.History.as_view()),
    path("worklist/history.csv", worklist.HistoryFile.as_view()),
    path("outbox", outbox.TheOutbox.as_view()),
    path("outbox/<int:output_id>", outbox.OneOutput.as_view()),
    path("outbox/jobs/<int:job_id>", outbox.OutputOfJob.as_view()),
    path("outbox/<int:output_id>/reports", outbox.Reports.as_view()),
    path("outbox/<int:output_id>/media", outbox_media.media),
]
