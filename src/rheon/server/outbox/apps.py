from django.apps import AppConfig


class OutboxConfig(AppConfig):
    name = "rheon.server.outbox"
    label = "outbox"

    def ready(self) -> None:
        from . import receivers  # noqa: F401, PLC0415 - connects when the apps are ready
