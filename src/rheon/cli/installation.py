"""What the verbs that look after an installation share."""

from __future__ import annotations

import contextlib
import inspect
import os
from collections.abc import Callable, Iterator
from typing import Any

import typer

from rheon.core.errors import BackupRefused, DatabaseNewer, RheonError, SettingsRefused
from rheon.settings import CALLED_NOW, Loaded, Settings, load_settings

from .output import FAILED, USAGE, console


def with_flags(verb: Callable[..., None]) -> Callable[..., None]:
    """Give a verb a flag for each setting; it gets those that were said as ``flags``."""

    def run(**flags: Any) -> None:
        own = {name: flags.pop(name) for name in list(flags) if name not in {*Settings.model_fields, *CALLED_NOW}}
        verb(flags={name: value for name, value in flags.items() if value not in (None, [])}, **own)

    said = [
        inspect.Parameter(
            name,
            inspect.Parameter.KEYWORD_ONLY,
            annotation=bool | None if field.annotation is bool else str | None,
            default=typer.Option(None, f"--{name.replace('_', '-')}", help=field.description, show_default=False),
        )
        for name, field in Settings.model_fields.items()
    ]
    said += [
        inspect.Parameter(
            name,
            inspect.Parameter.KEYWORD_ONLY,
            annotation=str | None,
            default=typer.Option(None, f"--{name.replace('_', '-')}", hidden=True),
        )
        for name in CALLED_NOW
    ]
    own = [one for one in inspect.signature(verb, eval_str=True).parameters.values() if one.name != "flags"]
    run.__signature__ = inspect.Signature([*own, *said])  # type: ignore[attr-defined]
    run.__annotations__ = {one.name: one.annotation for one in (*own, *said)}
    run.__doc__, run.__name__ = verb.__doc__, verb.__name__
    return run


@contextlib.contextmanager
def told() -> Iterator[None]:
    """Turn an error meant for a person into a sentence and an exit status."""
    try:
        yield
    except RheonError as error:
        say(error.message)
        raise typer.Exit(
            USAGE if isinstance(error, SettingsRefused | BackupRefused | DatabaseNewer) else FAILED
        ) from error
    except OSError as error:
        say(f"{error.filename}: {error.strerror}.")
        raise typer.Exit(FAILED) from error


def say(text: str) -> None:
    console().print(f"[bold]rheon:[/bold] {text}", highlight=False, soft_wrap=True)


def loaded(flags: dict[str, object] | None = None) -> Loaded:
    """The settings, with a word on variables that look like one and are none. Raises ``SettingsRefused``."""
    found = load_settings(flags)
    for name in found.unknown:
        say(f"There is no setting {name}; it is passed over.")
    for origin, name in found.renamed:
        say(f"{origin[:1].upper()}{origin[1:]}: this setting is called {name} now.")
    return found


def use_django(found: Loaded) -> None:
    """Make the database's rows reachable in this process."""
    os.environ.update(found.environment() | {"DJANGO_SETTINGS_MODULE": "rheon.server.config.settings"})
    import django  # noqa: PLC0415 - it takes half a second, and most verbs need none

    django.setup()
