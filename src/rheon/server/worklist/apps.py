from django.apps import AppConfig


class WorklistConfig(AppConfig):
    name = "rheon.server.worklist"
    label = "worklist"
