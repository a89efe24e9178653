"""Background work of the Bench, on the queue that never waits behind a conversion."""

from django_tasks import task

from rheon.server.work import Work

measure_balances, measure_hardware, find_rate = Work(), Work(), Work()


# somebody waits for it
@task(queue_name="quick", priority=40)
def measure_balances_task(title_id: int, target_id: int) -> None:
    measure_balances(title_id, target_id)


# somebody waits for it
@task(queue_name="quick", priority=45)
def find_rate_task(title_id: int, target_id: int, wanted: float, quality: int) -> None:
    find_rate(title_id, target_id, wanted, quality)


@task(queue_name="quick", priority=-60)
def measure_hardware_task() -> None:
    measure_hardware()
