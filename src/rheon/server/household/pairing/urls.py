"""Every address that a device reaches; there are no others."""

from django.urls import path

from . import views

urlpatterns = [
    path("", views.code_form),
    path("ask.js", views.script),
    path("<slug:code>", views.page),
    path("<slug:code>/clips.json", views.clips),
    path("<slug:code>/clips/<slug:clip_id>", views.clip),
    path("<slug:code>/answers", views.answers),
]
