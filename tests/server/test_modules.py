"""Every module of ours loads, the one that the web server is started with too."""

from __future__ import annotations

import subprocess
import sys

LOAD_ALL = """
import importlib, os, pkgutil
os.environ["DJANGO_SETTINGS_MODULE"] = "rheon.server.config.settings"
import django
django.setup()
import rheon
for found in pkgutil.walk_packages(rheon.__path__, "rheon."):
    importlib.import_module(found.name)
print(type(importlib.import_module("rheon.server.config.asgi").application).__name__)
"""


def test_every_module_loads_and_the_application_is_bounded() -> None:
    # in a process of its own: the application takes over temporary files and what may be opened
    done = subprocess.run([sys.executable, "-c", LOAD_ALL], capture_output=True, text=True, check=False)
    assert (done.returncode, done.stdout.strip()) == (0, "UnderPrefix"), done.stderr
