"""The errors a person may meet.

Each class has a stable ``code`` for programs, and is made with a message of the catalogue that says what happened; its
``advice`` says what to do next. What stands in the places of both are its ``facts``.
"""

from __future__ import annotations

from typing import ClassVar

from .catalogue import say


class RheonError(Exception):
    """Base of everything that Rheon reports to a person. Never raised itself."""

    code: ClassVar[str] = "failed"
    advice: ClassVar[str] = "Try again; if it happens again, look at the worker's log."

    def __init__(self, message: str, /, *, advice: str | None = None, **facts: object) -> None:
        super().__init__(message)
        self._message, self._advice = message, advice if advice is not None else self.advice
        self.facts = facts

    @property
    def what(self) -> str:
        """What happened, as a sentence."""
        return self._said(self._message)

    @property
    def next_step(self) -> str:
        """What to do, as a sentence; empty where there is nothing."""
        return self._said(self._advice)

    def _said(self, message: str) -> str:
        # names of files may be no text (PEP 383), and what is said of them must be
        return say(message, **self.facts).encode(errors="replace").decode() if message else ""

    @property
    def message(self) -> str:
        """What happened and what to do, as one or two sentences."""
        return f"{self.what} {self.next_step}".strip()

    def __str__(self) -> str:
        return self.message


class SourceError(RheonError):
    """A source was refused or can't be read (exit status 3 of the command line)."""

    code = "source_unreadable"
    advice = "Check that the disc or file was copied completely, then scan it again."


class NotASource(SourceError):
    code = "not_a_source"
    advice = "Choose a disc folder (VIDEO_TS or BDMV), a disc image, or video or sound files."


class EmptyDisc(SourceError):
    code = "empty_disc"
    advice = "Copy the disc again; nothing on it can be played."


class SourceMissing(SourceError):
    code = "source_missing"
    advice = "Put it back where it was, or add it again from its new place."


class SourceChanged(SourceError):
    code = "source_changed"
    advice = "Nothing was kept. Scan it again when it no longer changes, then make the file anew."


class LossNotAccepted(SourceError):
    code = "loss_not_accepted"
    advice = "Get a whole copy of it, or say that you accept the loss: then what is there becomes a file."


class CutOffImage(SourceError):
    code = "cut_off"
    advice = "Copy the image again; the end of it is missing."


class CutOffFile(SourceError):
    code = "file_cut_off"
    advice = "Copy or download it again, or finish the recording."


class TablesBroken(SourceError):
    code = "tables_broken"
    advice = "Copy the disc again; without one good set of tables the titles can't be told apart."


class Scrambled(SourceError):
    code = "scrambled"
    advice = "Rheon only works with material that is not scrambled, and stops here."


class ForbiddenFormat(SourceError):
    code = "forbidden_format"
    advice = "Rheon opens media only, never lists or scripts that point elsewhere. Choose the media file itself."


class OutsideFolders(SourceError):
    code = "outside_folders"
    advice = "Choose a place inside the configured media or output folders."


class EngineError(RheonError):
    """The media engine could not do its work (exit status 4)."""

    code = "engine_failed"

    @property
    def complaint(self) -> str:
        """What the engine complained of first: what follows is only that it gave up."""
        tail = self.facts.get("tail")
        return str(tail[0]) if isinstance(tail, list) and tail else self.what


class EngineMissing(EngineError):
    code = "engine_missing"
    advice = "Install it with: apt-get install ffmpeg"


class EngineTooOld(EngineError):
    code = "engine_too_old"
    advice = "Install ffmpeg 5.0 or newer."


class EngineTimedOut(EngineError):
    code = "engine_timed_out"
    advice = "The file may be damaged, or the machine very busy. Try again later."


class EngineKilled(EngineError):
    """It was ended from outside, as a system does that has no memory left."""

    code = "engine_killed"
    advice = "The machine may be short of memory. Close other programs, and try again."


class EngineOutOfMemory(EngineError):
    """It wanted more memory than it may take, or than there is."""

    code = "engine_out_of_memory"
    advice = "Raise engine_memory_mb in rheon.toml, or ask for fewer lines of picture."


class RateTooLow(EngineError):
    """The rate that was asked for is one that the encoder's coarsest quality is too large for."""

    code = "rate_too_low"
    advice = "Ask for a larger file or for fewer lines of picture."


class ToolMissing(EngineError):
    code = "tool_missing"
    advice = "Install it (Debian: apt install ffmpeg); 'rheon doctor' looks for all that is needed."


class SettingsRefused(RheonError):
    code = "settings_refused"
    advice = "Correct it and start again."


class BackupRefused(RheonError):
    code = "backup_refused"
    advice = "Nothing was changed. Name another file."


class DatabaseNewer(RheonError):
    code = "database_newer"
    advice = "Nothing was changed. Install the newer Rheon again, or restore a copy from before it."


class InUse(RheonError):
    code = "in_use"
    advice = "End that one first, or name another state folder."


class NeedsPassphrase(SettingsRefused):
    code = "needs_passphrase"
    advice = "Set one with 'rheon passphrase', then start again."


class PortTaken(RheonError):
    code = "port_taken"
    advice = "End what uses it, or choose another with --port."


class PreparationFailed(RheonError):
    code = "preparation_failed"
    advice = "Nothing was started; 'rheon doctor' looks for the reason."


class PassphraseRefused(RheonError):
    code = "passphrase_refused"
    advice = "Look at capitals and the keyboard's layout, and try again."


class TooManyTries(RheonError):
    code = "too_many_tries"
    advice = "Wait a quarter of an hour, or set a new one with 'rheon passphrase'."


class TargetError(RheonError):
    code = "target_failed"
    advice = "Choose another folder."


class TargetFull(TargetError):
    code = "target_full"
    advice = "Free some space or choose another folder, then start it again."


class TargetReadOnly(TargetError):
    code = "target_read_only"
    advice = "Choose a folder that can be written to, or change its permissions."


class DeviceGone(TargetError):
    """What files are copied to is not there, or not any more."""

    code = "device_gone"
    advice = "Plug it in again: the copy goes on where it was."


class DeviceBusy(TargetError):
    code = "device_busy"
    advice = "Wait until it is done."


class FileTooLarge(TargetError):
    code = "file_too_large"
    advice = "Make it smaller, or give the device a file system that takes larger files, such as exFAT."


class EjectRefused(TargetError):
    code = "eject_refused"
    advice = "Close what uses it and try again; everything that was copied is written."


class PlanError(RheonError):
    code = "plan_refused"
    advice = "Choose another device or another setting."


class NoSuchTitle(PlanError):
    code = "no_such_title"
    advice = "Scan the source to see which titles it has."


class CantJoin(PlanError):
    code = "cant_join"
    advice = "Choose other titles to join."


class NoSuchDevice(PlanError):
    code = "no_such_device"
    advice = "See 'rheon devices' for the ones there are."


class NameTaken(RheonError):
    code = "name_taken"
    advice = "Choose another one, so that both are told apart."


class NoTestFile(RheonError):
    code = "no_test_file"
    advice = "Ask the device itself, or try a film with it."


class BadPin(PlanError):
    code = "bad_pin"
    advice = "Choose one of the values offered."


class BadPattern(PlanError):
    code = "bad_pattern"
    advice = "Correct it, or choose one of the patterns offered."


class BadChapters(PlanError):
    code = "bad_chapters"
    advice = "A list has a line for each chapter: its name, and before it when it begins, as in 0:12:30 Low water."


class BadPicture(PlanError):
    code = "bad_picture"
    advice = "Take a JPEG, PNG or WebP."


class TagsRefused(RheonError):
    code = "tags_refused"
    advice = "The file itself is as it was."


class LookUpFailed(RheonError):
    code = "look_up_failed"
    advice = "Nothing was changed. Try again later, or type what you know."


class NoSuchWork(PlanError):
    code = "no_such_work"
    advice = "Look it up again."


class LookUpOff(SettingsRefused):
    code = "look_up_off"
    advice = "Nothing was sent. Allow it in the settings of the page, or type what you know."


class BadProfile(RheonError):
    code = "bad_profile"
    advice = "Correct the named fields and load the profile again; docs/device-profile.md explains each."


class CheckFailed(RheonError):
    code = "check_failed"
    advice = "Nothing was kept. Choose another balance or device and try again."


class NotWhole(CheckFailed):
    code = "not_whole"
    advice = "The source may be damaged there. Nothing was kept; accept the loss to keep what can be read."


class Stopped(RheonError):
    """Somebody asked for the work to stop. Nothing is left behind."""

    code = "stopped"
    advice = "It can be started again at any time."
