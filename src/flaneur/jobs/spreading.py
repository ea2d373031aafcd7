"""Work that is the same for many things, spread over processes: a cluster of this machine's own, or
one whose scheduler runs elsewhere.
"""

import os
from collections.abc import Callable, Generator, Iterable
from contextlib import contextmanager
from itertools import islice
from typing import Any, TypeVar

from dask import config
from distributed import Client, LocalCluster, as_completed

from flaneur.core.errors import ErrorCode, FlaneurError

Task = TypeVar("Task")
Done = TypeVar("Done")
AHEAD = 3  # tasks under way for each worker: none waits for the next, and memory stays flat
WITHIN_S = 10
# Where it runs is not watched: that keeps a growing tree of every call, and costs a tenth.
OWN = {
    "distributed.worker.profile.enabled": False,
    "distributed.admin.tick.interval": "500ms",
}


class NoCluster(FlaneurError):
    """The scheduler does not answer."""

    code = ErrorCode.NOT_FOUND


@contextmanager
def cluster(scheduler: str = "", workers: int = 0) -> Generator[Client]:
    """A cluster: the one whose scheduler is at that address (``tcp://host:port``), else one of so
    many processes here (nought: one for each core). Raises NoCluster.
    """
    if scheduler:
        try:
            client = Client(scheduler, timeout=WITHIN_S)
        except (OSError, ValueError, TimeoutError) as error:
            raise NoCluster(
                "The scheduler does not answer.",
                read=scheduler,
                expected="tcp://host:port of a running scheduler",
                advice="Start it with dask scheduler, or leave it out to work on this machine.",
            ) from error
        with client:
            yield client
        return
    with config.set(OWN):
        own: Any = LocalCluster(
            n_workers=workers or os.cpu_count() or 1,
            threads_per_worker=1,
            host="127.0.0.1",
            dashboard_address="127.0.0.1:0",
        )
        with own, Client(own) as client:
            yield client


def spread(client: Client, work: Callable[[Task], Done], tasks: Iterable[Task]) -> Generator[Done]:
    """What each task comes to, as they are done. Only a few for each worker are under way; whoever
    stops asking lets the rest go.
    """
    untyped: Any = client  # the library says little of what it takes and gives
    waiting = iter(tasks)
    most = AHEAD * max(1, len(untyped.scheduler_info()["workers"]))
    under_way: Any = as_completed(
        [untyped.submit(work, t, pure=False) for t in islice(waiting, most)]
    )
    try:
        for future in under_way:
            done: Done = future.result()
            future.release()
            for task in islice(waiting, 1):
                under_way.add(untyped.submit(work, task, pure=False))
            yield done
    finally:
        untyped.cancel(list(under_way.futures))
