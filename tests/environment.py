"""Set before anything else is loaded (``-p`` in pyproject.toml): tests never touch the developer's own state."""

from __future__ import annotations

import atexit
import os
import shutil
import tempfile
from pathlib import Path

_state = tempfile.mkdtemp(prefix="rheon-test-state-")
atexit.register(shutil.rmtree, _state, ignore_errors=True)
os.environ["RHEON_STATE"] = _state
# nor do they listen to the developer's settings
os.environ["RHEON_CONFIG"] = str(Path(_state) / "rheon.toml")
Path(os.environ["RHEON_CONFIG"]).touch()
os.environ["RHEON_OUTPUT"] = str(Path(_state) / "output")
os.environ["RHEON_MEDIA"] = (
    str(Path(__file__).parents[1] / "demo-data" / "media") + os.pathsep + str(Path(_state) / "media")
)
os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
