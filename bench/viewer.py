"""Looking at a large capture: how long one window takes at the server, sixty seconds of five
channels at 250 kS/s.
"""

import time
from collections.abc import Iterator

import numpy as np
from sqlmodel import Session, select

from bench.figure import Figure, at_most, machine_factor
from bench.house import cluster
from bench.readings import draw_faults
from bench.variants import tansy
from flaneur.core.signals.correlation import correlate
from flaneur.jobs.opening import open_job
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.blocks import look
from flaneur.store.database import connect, transaction
from flaneur.store.readings import keep_capture
from flaneur.store.tables import CaptureRow, Unit

SECONDS, RATE = 60.0, 250_000.0
LOOKS = 60
WINDOW_MS = 50.0


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with cluster(is_tiny) as found:
        yield from _measure(
            found.new_database(),
            (2.0, 50_000.0) if is_tiny else (SECONDS, RATE),
            5 if is_tiny else LOOKS,
        )


def _measure(url: str, size: tuple[float, float], looks: int) -> Iterator[Figure]:
    engine = connect(url)
    book, rng = tansy(), np.random.default_rng(5)
    capture = synthesise(book, draw_faults(rng), Conditions(seconds=size[0], rate_hz=size[1]), rng)
    found = correlate(capture, book)
    with transaction(engine) as session:
        unit = session.exec(select(Unit)).one()
        row = keep_capture(
            session,
            open_job(session, unit, "bench", "B"),
            book,
            "before",
            capture,
            found,
            "bench",
            {},
        )
        key = row.id or 0
    del capture
    times: list[float] = []
    factors: list[float] = []
    with Session(engine) as session:
        row = session.get_one(CaptureRow, key)
        look(session, row, 0, row.samples, 1000)
        for _ in range(looks):
            span = int(np.exp(rng.uniform(np.log(300), np.log(row.samples))))
            start = int(rng.integers(0, row.samples - span + 1))
            times.append(min(_took(session, row, start, span) for _ in range(5)))
            factors.append(machine_factor() if len(times) % 10 == 1 else factors[-1])
    engine.dispose()
    factor = float(np.median(factors))
    yield at_most(
        "viewer",
        f"slowest of {looks} windows of {row.samples * 5 / 1e6:.0f} million samples, ms (machine × "
        f"{factor:.2f})",
        1000 * max(times),
        WINDOW_MS * factor,
    )
    middle = 1000 * float(np.median(times))
    yield at_most("viewer", "middle window, ms", middle, WINDOW_MS * factor)


def _took(session: Session, row: CaptureRow, start: int, span: int) -> float:
    begun = time.perf_counter()
    look(session, row, start, start + span, 1000)
    return time.perf_counter() - begun
