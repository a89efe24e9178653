"""Who does this place's work."""

from . import tasks
from .actions.hardware import look_now

tasks.look_for_hardware.is_done_by(look_now)
