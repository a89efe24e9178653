from django.apps import AppConfig


class BenchConfig(AppConfig):
    name = "rheon.server.bench"
    label = "bench"

    def ready(self) -> None:
        from . import receivers  # noqa: F401, PLC0415 - connects when the apps are ready
