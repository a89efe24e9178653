"""When a source has been read, what matters on it is picked; devices that come and go are targets that do."""

from __future__ import annotations

from django.db.models.signals import post_delete, post_save
from django.dispatch import receiver

from rheon.server.household.models import Device
from rheon.server.shelf.models import Source
from rheon.server.shelf.signals import source_read

from . import tasks
from .actions.fidelity import measure_now
from .actions.hardware import measure_hardware_now
from .actions.picks import propose
from .actions.rate_search import find_rate_now
from .actions.targets import add_device_target, drop_lonely


@receiver(source_read)
def pick_proposed(sender: object, source: Source, **kwargs: object) -> None:
    propose(source)


@receiver(post_save, sender=Device)
def make_target(sender: object, instance: Device, created: bool, **kwargs: object) -> None:
    if created:
        add_device_target(instance)


@receiver(post_delete, sender=Device)
def drop_targets(sender: object, **kwargs: object) -> None:
    drop_lonely()


tasks.measure_balances.is_done_by(measure_now)
tasks.find_rate.is_done_by(find_rate_now)
tasks.measure_hardware.is_done_by(measure_hardware_now)
