"""Background work of the installation itself."""

from django_tasks import task

from rheon.server.work import Work

look_for_hardware = Work()


# a second or two, and plans rest on it
@task(queue_name="quick", priority=70)
def look_for_hardware_task() -> None:
    look_for_hardware()
