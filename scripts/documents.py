"""Write the documents that are made from code, or check that they are current (``--check``)."""

from __future__ import annotations

import json
import os
import sys
from pathlib import Path

import django

ROOT = Path(__file__).resolve().parents[1]


def documents() -> dict[Path, str]:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "rheon.server.config.settings")
    django.setup()
    from drf_spectacular.generators import SchemaGenerator  # noqa: PLC0415 - needs Django set up

    from rheon.core.devices import profile_schema  # noqa: PLC0415

    openapi = SchemaGenerator().get_schema(request=None, public=True)
    return {
        ROOT / "docs" / "openapi.json": json.dumps(openapi, indent=2, default=str) + "\n",
        ROOT / "docs" / "device-profile.schema.json": json.dumps(profile_schema(), indent=2) + "\n",
    }


def main() -> int:
    stale = [path for path, text in documents().items() if not path.exists() or path.read_text() != text]
    if "--check" in sys.argv:
        for path in stale:
            print(f"{path.relative_to(ROOT)} is not current. Run: make client")
        return 1 if stale else 0
    for path, text in documents().items():
        path.write_text(text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
