"""Every address that a device of the home network reaches; there are no others."""

from django.urls import include, path

from rheon.server.household.pairing import views as pairing
from rheon.server.outbox.network import views as network
from rheon.server.outbox.pickup import views as pickup

urlpatterns = [
    path("", pickup.code_form),
    path("pick-up.js", pickup.script),
    path("p/<slug:code>/", include("rheon.server.outbox.pickup.urls")),
    path("n/<str:token>/<int:output_id>/<str:name>", network.file),
    path("ask.js", pairing.script),
    path("<slug:code>", pairing.page),
    path("<slug:code>/clips.json", pairing.clips),
    path("<slug:code>/clips/<slug:clip_id>", pairing.clip),
    path("<slug:code>/answers", pairing.answers),
]
