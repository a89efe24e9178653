"""Does an output keep its device's rules and its plan?"""

from .check import Check, CheckRequest, check_file, read_facts
from .whole import Ends, ends_wanted

__all__ = ["Check", "CheckRequest", "Ends", "check_file", "ends_wanted", "read_facts"]
