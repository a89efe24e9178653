"""Background work of the Bench, on the queue that never waits behind a conversion."""

from django_tasks import task

from rheon.server.work import Work

measure_balances, measure_hardware = Work(), Work()


# somebody waits for it
@task(queue_name="quick", priority=40)
def measure_balances_task(title_id: int, target_id: int) -> None:
    measure_balances(title_id, target_id)


@task(queue_name="quick", priority=-60)
def measure_hardware_task() -> None:
    measure_hardware()
