"""What can be done when all is made, as the settings name it (``Shut down=systemctl poweroff``)."""

from __future__ import annotations

import shlex

from django.conf import settings


def ends() -> dict[str, list[str]]:
    """The commands by their names."""
    named = (said.partition("=") for said in settings.RHEON_ENDS)
    return {name.strip(): shlex.split(command) for name, _, command in named}
