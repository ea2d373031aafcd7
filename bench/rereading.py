"""All captures of a fleet read again: one process against two, beside a bare loop of as many.

A machine is not as fast all the time: the four are gone through by turns, a part of the captures
each.
"""

import multiprocessing
import os
import tempfile
import time
from collections import defaultdict
from collections.abc import Callable, Generator, Iterator, Sequence
from contextlib import ExitStack, contextmanager
from multiprocessing.connection import Connection
from pathlib import Path
from unittest.mock import patch

import numpy as np
from distributed import Client

from bench.figure import Figure, at_least, at_most, for_information
from bench.house import BOOK
from bench.variants import tansy
from flaneur.core.faults.model import Faults
from flaneur.formats.captures import to_parquet
from flaneur.jobs.rereading import InFolder, in_folder, read
from flaneur.jobs.spreading import cluster, spread
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise

CAPTURES, OWN, SEED, PARTS = 2000, 40, 20, 10
# As the cluster's workers are started: arithmetic of a process on one core.
ONE_CORE = {"OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1"}


Way = Callable[[Sequence[InFolder]], float]
"""Reads captures, and tells how long it took, seconds."""


def measure() -> Iterator[Figure]:
    """Figures of reading again from a folder."""
    took = defaultdict[str, float](float)
    with tempfile.TemporaryDirectory() as folder, ExitStack() as at_work:
        _fill(Path(folder))
        tasks = in_folder(Path(folder), BOOK, {})
        two = at_work.enter_context(cluster(workers=2))
        ways: dict[str, Way] = {
            "bare one": at_work.enter_context(_bare(1)),
            "bare two": at_work.enter_context(_bare(2)),
            "one": _spread(at_work.enter_context(cluster(workers=1))),
            "two": _spread(two),
        }
        for way in ways.values():
            way(tasks[:2])
        memory = list[int]()
        for part in range(PARTS):
            for way in [*ways][part % 4 :] + [*ways][: part % 4]:
                took[way] += ways[way](tasks[part::PARTS])
            memory.append(_memory(two))
    name = f"{len(tasks)} captures read again"
    yield for_information("fleet", f"{name}, one process, s", took["bare one"])
    yield for_information("fleet", f"{name}, spread over two, s", took["two"])
    bare = took["bare one"] / took["bare two"]
    yield for_information("fleet", "bare loop, two processes against one", bare)
    against = took["one"] / took["two"] / bare
    yield at_least("fleet", "speed-up by two workers, of the bare loop's", against, 0.85)
    more = memory[-1] / memory[0]
    yield at_most("fleet", "memory at the end against after a tenth, times", more, 1.1)


def _fill(folder: Path) -> None:
    """Captures of engines worn unlike each other; those after the first few are the same again."""
    for number in range(CAPTURES):
        path = folder / f"C{number:04d}.parquet"
        if number >= OWN:
            os.link(folder / f"C{number % OWN:04d}.parquet", path)
            continue
        faults = Faults(elongation_pct={"primary": 0.5 * number / OWN})
        rng = np.random.default_rng((SEED, number))
        made = synthesise(tansy(), faults, Conditions(seconds=1.2, rate_hz=20_000), rng)
        path.write_bytes(to_parquet(made))


def _loop(asked: Connection) -> None:
    """What one process of the bare loop does, until it is told of no more."""
    while tasks := asked.recv():
        for task in tasks:
            read(task)
        asked.send(True)


@contextmanager
def _bare(processes: int) -> Generator[Way]:
    """So many processes that each read their share."""
    spawned = multiprocessing.get_context("spawn")
    pipes = [spawned.Pipe() for _ in range(processes)]
    loops = [spawned.Process(target=_loop, args=(there,), daemon=True) for _, there in pipes]
    with patch.dict(os.environ, ONE_CORE):
        for loop in loops:
            loop.start()

    def way(tasks: Sequence[InFolder]) -> float:
        begun = time.perf_counter()
        for place, (here, _) in enumerate(pipes):
            here.send(tasks[place::processes])
        for here, _ in pipes:
            here.recv()
        return time.perf_counter() - begun

    yield way
    for here, _ in pipes:
        here.send([])
    for loop in loops:
        loop.join()


def _spread(client: Client) -> Way:
    """The same spread over a cluster."""

    def way(tasks: Sequence[InFolder]) -> float:
        begun = time.perf_counter()
        for _ in spread(client, read, tasks):
            pass
        return time.perf_counter() - begun

    return way


def _memory(client: Client) -> int:
    return sum(client.run(_resident).values())


def _resident() -> int:
    pages = int(Path("/proc/self/statm").read_text(encoding="ascii").split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE")
