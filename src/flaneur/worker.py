"""The worker: the process that takes files from the queue in PostgreSQL and has them decoded, and
works out how engines go on.
"""

import asyncio
import logging
import os
import signal
import threading
import time
from collections.abc import Callable

import procrastinate
import psycopg
from procrastinate.exceptions import ConnectorException
from sqlalchemy import Engine

from flaneur.jobs.decoding import decode_incoming
from flaneur.jobs.room import RESERVE_BYTES, missing_bytes
from flaneur.jobs.trending import work_out
from flaneur.store.database import connect, transaction
from flaneur.store.incoming import take_up_again
from flaneur.store.keeping import let_go
from flaneur.store.pulse import WORKER, beat
from flaneur.store.queue import TASK, TREND, deferrer, put_in, queue_url
from flaneur.store.shop import shop_of

log = logging.getLogger("flaneur.worker")
WATCH_EVERY_S, TERMS_EVERY_S = 4.0, 1800.0
AT_A_TIME = 10  # captures
STOPS_WITHIN_S = 4.0


def make_queue(database_url: str, engine: Engine | None = None) -> procrastinate.App:
    """The task queue with its tasks, for the worker's own process (or a test)."""
    app = procrastinate.App(
        connector=procrastinate.PsycopgConnector(conninfo=queue_url(database_url))
    )
    database = engine or connect(database_url)

    @app.task(name=TASK, queue="captures")
    def decode(incoming_id: int) -> None:
        wait_for_room()
        decode_incoming(database, incoming_id)

    @app.task(name=TREND, queue="trends")
    def trend() -> None:
        work_out(database)

    return app


def wait_for_room() -> None:
    """Begin no file while it would go into the reserve of the disk; files wait meanwhile."""
    folder = os.environ.get("FLANEUR_DATA", "")
    while missing_bytes(folder, int(os.environ.get("FLANEUR_DISK_RESERVE_BYTES", RESERVE_BYTES))):
        log.warning("the disk is nearly full: files wait")
        time.sleep(WATCH_EVERY_S)


def watch_over(engine: Engine, queue: procrastinate.App) -> None:
    """Give a sign of life, and put every file that waits, or was left half way, into the queue.
    Asking twice does no harm.
    """
    with transaction(engine) as session:
        beat(session, WORKER)
    for incoming_id in take_up_again(engine):
        put_in(queue, incoming_id)


def keep_to_terms(engine: Engine) -> None:
    """Let go of samples that are past the shop's term, a few at a time."""
    while True:
        with transaction(engine) as session:
            gone = let_go(session, shop_of(session).keep_samples_months, AT_A_TIME)
        if not gone:
            return
        log.info("samples no longer kept, of captures %s", ", ".join(map(str, gone)))


def _keep_watch(engine: Engine, url: str) -> None:
    while True:
        try:
            with deferrer(url).open() as queue:
                looked = -TERMS_EVERY_S
                while True:
                    watch_over(engine, queue)
                    if time.monotonic() - looked > TERMS_EVERY_S:
                        keep_to_terms(engine)
                        looked = time.monotonic()
                    time.sleep(WATCH_EVERY_S)
        except (
            Exception
        ) as error:  # most often the database is away: look again when it may be back
            log.warning(
                "cannot look after waiting files: %s",
                str(error).splitlines()[0] if str(error) else type(error).__name__,
            )
            time.sleep(WATCH_EVERY_S)


class Told:
    """Whether the worker was told to end. From then on it has a few seconds: what it leaves half
    way is taken up again at the next start.
    """

    def __init__(self) -> None:
        self.event = threading.Event()
        self._stop: Callable[[], object] | None = None

    def __call__(self, *_: object) -> None:
        """Take the signal: end what runs, and in any case the process."""
        self.event.set()
        last = threading.Timer(STOPS_WITHIN_S + 1.0, os._exit, [0])
        last.daemon = True
        last.start()
        if self._stop is not None:
            self._stop()

    async def work(self, queue: procrastinate.App) -> None:
        """Work off the queue until told to end."""
        loop, task = asyncio.get_running_loop(), asyncio.current_task()
        assert task is not None
        self._stop = lambda: loop.call_soon_threadsafe(task.cancel)
        try:
            async with queue.open_async():
                # Files never wait for a trend: each queue has a place of its own.
                await asyncio.gather(
                    *(
                        queue.run_worker_async(
                            queues=[name],
                            concurrency=1,
                            fetch_job_polling_interval=1.0,
                            delete_jobs="always",
                            shutdown_graceful_timeout=STOPS_WITHIN_S,
                            install_signal_handlers=False,
                        )
                        for name in ("captures", "trends")
                    )
                )
        finally:
            self._stop = None


def main() -> None:
    """Run until told to stop. Files that a stopped worker left half way are begun again; a database
    that goes away is waited for.
    """
    logging.basicConfig(level=logging.INFO)
    told = Told()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, told)
    url = os.environ["FLANEUR_DATABASE_URL"]
    engine = connect(url)
    threading.Thread(target=_keep_watch, args=(engine, url), daemon=True).start()
    while not told.event.is_set():
        try:
            asyncio.run(told.work(make_queue(url, engine)))
        except asyncio.CancelledError:
            return
        except (psycopg.Error, ConnectorException, OSError) as error:
            log.warning("the queue does not answer, trying again: %s", error)
            told.event.wait(WATCH_EVERY_S)


if __name__ == "__main__":
    main()
