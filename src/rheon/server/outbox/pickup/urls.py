"""What the code for picking up files opens."""

from django.urls import path

from . import views

urlpatterns = [
    path("", views.page),
    path("files.m3u8", views.playlist),
    path("<int:output_id>/report", views.report),
    path("<int:output_id>/<str:name>", views.file),
]
