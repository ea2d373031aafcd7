"""All captures of a fleet read again: one process against two, beside a bare loop of as many."""

import multiprocessing
import os
import tempfile
import time
from collections.abc import Iterator, Sequence
from multiprocessing.synchronize import Barrier
from pathlib import Path

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

CAPTURES, OWN, SEED = 2000, 40, 20


def measure(is_tiny: bool) -> Iterator[Figure]:
    """Figures of reading again from a folder."""
    with tempfile.TemporaryDirectory() as folder:
        _fill(Path(folder), 12 if is_tiny else CAPTURES, 3 if is_tiny else OWN)
        tasks = in_folder(Path(folder), BOOK, {})
        bare = [_bare(tasks, processes) for processes in (1, 2)]
        spreads = [_spread(tasks, workers) for workers in (1, 2)]
    took, more = zip(*spreads, strict=True)
    name = f"{len(tasks)} captures read again"
    yield for_information("fleet", f"{name}, one process, s", bare[0])
    yield for_information("fleet", f"{name}, spread over two, s", took[1])
    yield for_information("fleet", "bare loop, two processes against one", bare[0] / bare[1])
    against = (took[0] / took[1]) / (bare[0] / bare[1])
    bar = 0.3 if is_tiny else 0.85
    yield at_least("fleet", "speed-up by two workers, of the bare loop's", against, bar)
    yield at_most("fleet", "memory at the end against after a tenth, times", max(more), 1.1)


def _fill(folder: Path, count: int, own: int) -> None:
    """Captures of engines worn unlike each other; those after the first few are the same again."""
    for number in range(count):
        path = folder / f"C{number:04d}.parquet"
        if number >= own:
            os.link(folder / f"C{number % own:04d}.parquet", path)
            continue
        faults = Faults(elongation_pct={"primary": 0.5 * number / own})
        rng = np.random.default_rng((SEED, number))
        made = synthesise(tansy(), faults, Conditions(seconds=1.2, rate_hz=20_000), rng)
        path.write_bytes(to_parquet(made))


def _loop(tasks: Sequence[InFolder], ready: Barrier) -> None:
    read(tasks[0])
    ready.wait()
    for task in tasks:
        read(task)


def _bare(tasks: Sequence[InFolder], processes: int) -> float:
    """How long so many processes take that each read their share, seconds."""
    spawned = multiprocessing.get_context("spawn")
    ready = spawned.Barrier(processes + 1)
    loops = [
        spawned.Process(target=_loop, args=(tasks[k::processes], ready)) for k in range(processes)
    ]
    for loop in loops:
        loop.start()
    ready.wait()
    begun = time.perf_counter()
    for loop in loops:
        loop.join()
    return time.perf_counter() - begun


def _spread(tasks: Sequence[InFolder], workers: int) -> tuple[float, float]:
    """The same spread over a cluster, and the memory of its workers at the end against after a
    tenth.
    """
    with cluster(workers=workers) as client:
        list(spread(client, read, tasks[: 2 * workers]))
        early, begun, paused = 0, time.perf_counter(), 0.0
        for done, _ in enumerate(spread(client, read, tasks), 1):
            if done == max(1, len(tasks) // 10):
                now = time.perf_counter()
                early, paused = _memory(client), time.perf_counter() - now
        return time.perf_counter() - begun - paused, _memory(client) / early


def _memory(client: Client) -> int:
    return sum(client.run(_resident).values())


def _resident() -> int:
    pages = int(Path("/proc/self/statm").read_text(encoding="ascii").split()[1])
    return pages * os.sysconf("SC_PAGE_SIZE")
