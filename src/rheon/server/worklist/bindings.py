"""Who does the Worklist's work."""

from .actions.run import run_all
from .tasks import run_jobs

run_jobs.is_done_by(run_all)
