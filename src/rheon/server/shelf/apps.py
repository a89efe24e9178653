from django.apps import AppConfig


class ShelfConfig(AppConfig):
    name = "rheon.server.shelf"
    label = "shelf"
