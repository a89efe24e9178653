"""Names that several places' documents share."""

from rheon.core.devices import DeviceKind as Kind
from rheon.core.devices import Verdict as CoreVerdict
from rheon.core.media import Role as CoreRole
from rheon.core.planning import Balance as CoreBalance
from rheon.core.planning import SoundWish, WordsWish
from rheon.core.sources.drive import DriveState as CoreDriveState

BALANCES = [(value.value, value.value) for value in CoreBalance]
VERDICTS = [(value.value, value.value) for value in CoreVerdict]
ROLES = [(value.value, value.value) for value in CoreRole]
DRIVE_STATES = [(value.value, value.value) for value in CoreDriveState]
DEVICE_KINDS = [(value.value, value.value) for value in Kind]
SOUND_WISHES = [(value.value, value.value) for value in SoundWish]
WORDS_WISHES = [(value.value, value.value) for value in WordsWish]
