"""Looking at a large capture: how long one window takes at the server, sixty seconds of five channels at 250 kS/s."""

import socket
import subprocess
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from sqlmodel import Session

from bench.figure import Figure, at_most
from bench.readings import draw_faults
from bench.variants import BOOK, tansy
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.motion import Conditions
from flaneur.core.signals.synthesis import synthesise
from flaneur.store.blocks import look
from flaneur.store.database import connect, transaction
from flaneur.store.depot import keep_book
from flaneur.store.jobs import open_job
from flaneur.store.migrate import migrate
from flaneur.store.readings import keep_capture
from flaneur.store.tables import CaptureRow, Unit

ROOT = Path(__file__).parents[1]
SECONDS, RATE = 60.0, 250_000.0
LOOKS = 60


def run() -> Iterator[Figure]:
    folder = ROOT / ".run" / f"bench-{time.time_ns()}"
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = str(probe.getsockname()[1])
    base = [str(ROOT / "script" / "database")]
    try:
        subprocess.run([*base, "start", str(folder), port], check=True)
        url = subprocess.run([*base, "url", str(folder), port], check=True, capture_output=True, text=True).stdout.strip()
        yield from _measure(url)
    finally:
        subprocess.run([*base, "stop", str(folder), port], check=False)
        subprocess.run(["rm", "-rf", str(folder)], check=False)


def _measure(url: str) -> Iterator[Figure]:
    engine = connect(url)
    migrate(engine)
    book, rng = tansy(), np.random.default_rng(5)
    capture = synthesise(book, draw_faults(rng), Conditions(seconds=SECONDS, rate_hz=RATE), rng)
    found = correlate(capture, book)
    with transaction(engine) as session:
        kept = keep_book(session, BOOK.read_text(encoding="utf-8"))
        unit = Unit(tag="X", name="X", kind="x", book_id=kept.id or 0)
        session.add(unit)
        session.flush()
        row = keep_capture(session, open_job(session, unit, "bench"), book, "before", capture, found, "bench", {})
        key = row.id or 0
    del capture
    times: list[float] = []
    with Session(engine) as session:
        row = session.get_one(CaptureRow, key)
        look(session, row, 0, row.samples, 1000)
        for _ in range(LOOKS):
            span = int(np.exp(rng.uniform(np.log(300), np.log(row.samples))))
            start = int(rng.integers(0, row.samples - span + 1))
            begun = time.perf_counter()
            look(session, row, start, start + span, 1000)
            times.append(time.perf_counter() - begun)
    engine.dispose()
    yield at_most(
        "viewer", f"slowest of {LOOKS} windows of {row.samples * 5 / 1e6:.0f} million samples, milliseconds", 1000 * max(times), 50
    )
    yield at_most("viewer", "middle window, milliseconds", 1000 * float(np.median(times)), 50)
