"""Addresses: the API, the live stream, and the page for everything else."""

from django.urls import include, path, re_path

from rheon.server.api.page import page
from rheon.server.live.views import live

urlpatterns = [
    path("api/", include("rheon.server.api.router")),
    path("api/live", live),
    re_path(r"^(?!api/|static/|assets/).*$", page),
]
handler500 = "rheon.server.api.errors.server_error"
