from django.apps import AppConfig


class HomeConfig(AppConfig):
    name = "rheon.server.home"
    label = "home"
