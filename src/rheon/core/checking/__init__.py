"""Does an output keep its device's rules and its plan?"""

from .check import Check, CheckRequest, check_file

__all__ = ["Check", "CheckRequest", "check_file"]
