"""The task queue in PostgreSQL: where files that wait to be decoded stand, and the asking for
courses to be worked out anew.
"""

import contextlib

import procrastinate
from procrastinate.exceptions import AlreadyEnqueued

TASK, TREND = "decode_incoming", "work_out_trend"


def queue_url(database_url: str) -> str:
    """The database's address as psycopg takes it."""
    return database_url.replace("postgresql+psycopg://", "postgresql://")


def deferrer(database_url: str) -> procrastinate.App:
    """The task queue as the web process needs it: to put tasks in. Open it before use."""
    return procrastinate.App(
        connector=procrastinate.SyncPsycopgConnector(
            conninfo=queue_url(database_url), min_size=1, max_size=2
        )
    )


def put_in(queue: procrastinate.App, incoming_id: int) -> None:
    """Ask for a file to be decoded; asking twice does no harm."""
    with contextlib.suppress(AlreadyEnqueued):
        queue.configure_task(TASK, queue="captures", queueing_lock=f"incoming-{incoming_id}").defer(
            incoming_id=incoming_id
        )


def ask_for_trends(queue: procrastinate.App, after_s: int = 0) -> None:
    """Ask for lessons and courses to be worked out, in so many seconds: what the asking transaction
    writes is there by then. Asking twice does no harm.
    """
    with contextlib.suppress(AlreadyEnqueued):
        queue.configure_task(
            TREND,
            queue="trends",
            queueing_lock="trends",  # no lock beside: one whose worker was killed would hold it
            schedule_in={"seconds": after_s},
        ).defer()
