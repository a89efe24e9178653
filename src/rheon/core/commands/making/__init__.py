"""The argument list that makes a file of a title by its settings."""

from .edges import Placed, edge_command, edge_job, middle_command, middle_job
from .encoders import Placing, audio_arguments, video_arguments
from .inputs import drawn_command, parts_document
from .job import Job
from .whole import SIDE_SUFFIX, build_command, chapters_document

__all__ = [
    "SIDE_SUFFIX",
    "Job",
    "Placed",
    "Placing",
    "audio_arguments",
    "build_command",
    "chapters_document",
    "drawn_command",
    "edge_command",
    "edge_job",
    "middle_command",
    "middle_job",
    "parts_document",
    "video_arguments",
]
