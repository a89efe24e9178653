"""Write the documents that are made from code, or check that they are current (``--check``)."""

from __future__ import annotations

import json
import os
import sys
from collections.abc import Iterable
from pathlib import Path
from typing import Any

import django
from messages import template

ROOT = Path(__file__).resolve().parents[1]
BEGIN, END = "<!-- settings: made by scripts/documents.py -->", "<!-- end of settings -->"


def documents() -> dict[Path, str]:
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "rheon.server.config.settings")
    django.setup()
    from drf_spectacular.generators import SchemaGenerator  # noqa: PLC0415 - needs Django set up

    from rheon.core.devices import profile_schema  # noqa: PLC0415
    from rheon.core.planning import DECISIONS  # noqa: PLC0415

    openapi = SchemaGenerator().get_schema(request=None, public=True)  # type: ignore[no-untyped-call]
    return {
        ROOT / "docs" / "openapi.json": json.dumps(openapi, indent=2, default=str) + "\n",
        ROOT / "docs" / "device-profile.schema.json": json.dumps(profile_schema(), indent=2) + "\n",
        ROOT / "docs" / "plan-decisions.md": decisions_table(DECISIONS.values()),
        ROOT / "docs" / "messages.pot": template(),
        ROOT / "README.md": with_settings((ROOT / "README.md").read_text()),
    }


def decisions_table(kinds: Iterable[Any]) -> str:
    """Every decision that can be set by hand, as the registry declares it."""
    rows = [
        "# Decisions",
        "",
        "What a plan decides and what can be set by hand: in the plan sheet, with `rheon plan --set key=value`,",
        "through the API and in sets of pins. `auto` lets Rheon choose again. This page is made from",
        "`rheon.core.planning.decisions` by `scripts/documents.py`.",
        "",
        "| key | called | meaning | said | rules that it may break |",
        "|---|---|---|---|---|",
    ]
    for kind in kinds:
        rules = ", ".join(kind.rules).replace("_", " ") or "none"
        rows.append(f"| `{kind.key}` | {kind.label} | {kind.help} | {kind.form.grammar} | {rules} |")
    return "\n".join(rows) + "\n"


def with_settings(readme: str) -> str:
    """The README with the table of settings as they are declared."""
    from rheon.settings import Settings, usual_text, variable  # noqa: PLC0415 - with the others

    rows = ["| in `rheon.toml` | variable | meaning | usual |", "|---|---|---|---|"]
    for name, field in Settings.model_fields.items():
        rows.append(f"| `{name}` | `{variable(name)}` | {field.description} | {usual_text(name)} |")
    before, _, rest = readme.partition(BEGIN)
    _, _, after = rest.partition(END)
    return f"{before}{BEGIN}\n" + "\n".join(rows) + f"\n{END}{after}"


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
