"""What the operating system is asked for: files, processes, temporary folders. The engine has a room of its own."""

from .addresses import own_address
from .cores import cores, keep_to_cores
from .identity import has_started_again, is_alive, process_identity, this_host
from .memory import available_bytes
from .opening import check_inside, is_there, open_inside, read_inside, real_path, set_fence
from .others import Others
from .path_text import is_text, path_text, shown, text_path
from .patience import within_patience
from .places import LARGEST_FILE, Mount, Place, file_system_of, mounts, place_of
from .power import Power, is_hot, power
from .renaming import rename_new
from .scratch import clear_left_over, is_elsewhere, is_left_over, may_be_in_use, own_mark, own_token, use_scratch

__all__ = [
    "LARGEST_FILE",
    "Mount",
    "Others",
    "Place",
    "Power",
    "available_bytes",
    "check_inside",
    "clear_left_over",
    "cores",
    "file_system_of",
    "has_started_again",
    "is_alive",
    "is_elsewhere",
    "is_hot",
    "is_left_over",
    "is_text",
    "is_there",
    "keep_to_cores",
    "may_be_in_use",
    "mounts",
    "open_inside",
    "own_address",
    "own_mark",
    "own_token",
    "path_text",
    "place_of",
    "power",
    "process_identity",
    "read_inside",
    "real_path",
    "rename_new",
    "set_fence",
    "shown",
    "text_path",
    "this_host",
    "use_scratch",
    "within_patience",
]
