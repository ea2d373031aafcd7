"""A workshop's load on the running product: fifty tablets, half-sent requests, large questions,
live looks, and the memory of it all.
"""

import json
import socket
import subprocess
import threading
import time
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from urllib.parse import urlsplit

import numpy as np

from bench import disk, kills
from bench.figure import Figure, at_least, at_most, for_information, machine_factor
from bench.house import BOOK, Served, served
from bench.tablets import Answered, Line, Tablet, all_at_once, busy, tablets

P95_MS, OTHERS_MS = 400.0, 500.0
TABLETS, MINUTES = 50, 3.0
REQUESTS = 20_000
HALF_SENT, LARGE, LIVE = 200, 12, 4
WATCHED = "PIL-5"  # an engine that nobody at the bench takes apart
LOOKS_A_SECOND = (
    1.5  # a live page looks every half second; less than this is seen as standing still
)


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with served() as product:
        yield from measure(product, is_tiny)
        yield from kills.measure(product, machine_factor(), is_tiny)
        yield from disk.restored(product)
    if not is_tiny:
        yield from disk.filled(machine_factor())


def measure(product: Served, is_tiny: bool) -> Iterator[Figure]:
    """Figures from a running product; bars in ms × the machine's factor."""
    factor = machine_factor()
    yield for_information("load", "calibration factor of this machine", factor)
    found = tablets(product.address, 2 if is_tiny else TABLETS)
    try:
        yield from _with(product, found, factor, is_tiny)
    finally:
        for tablet in found:
            tablet.line.close()


def _with(
    product: Served, found: Sequence[Tablet], factor: float, is_tiny: bool
) -> Iterator[Figure]:
    seconds = 5.0 if is_tiny else 60 * MINUTES
    begun, answers = time.monotonic(), list[Answered]()
    for count in (max(1, len(found) // 5), len(found)):
        answers = busy(found[:count], seconds if count == len(found) or is_tiny else seconds / 3)
        yield from _times(f"{count} tablets", answers, P95_MS * factor)
    yield for_information("load", "requests a second", len(answers) / (time.monotonic() - begun))
    yield from _crowded(product.address, found[0], factor, is_tiny)
    yield from _live(found[:LIVE], factor, 3.0 if is_tiny else 20.0)
    yield from _memory(product, found, 100 if is_tiny else REQUESTS)


def _times(who: str, answers: Sequence[Answered], bar_ms: float) -> Iterator[Figure]:
    took = 1000 * np.array([a.took_s for a in answers])
    wrong = [a for a in answers if a.status != 200]
    for a in wrong[:5]:
        print(f"  {a.status} {a.path}", flush=True)
    yield for_information("load", f"{who}: requests", len(answers))
    yield for_information("load", f"{who}: median of a request, ms", float(np.median(took)))
    yield at_most("load", f"{who}: p95 of a request, ms", float(np.percentile(took, 95)), bar_ms)
    yield at_most("load", f"{who}: requests not answered well", len(wrong), 0)


def _slowest(tablet: Tablet, seconds: float) -> tuple[float, int]:
    """The slowest request of somebody who opens pages for so long, ms, and how many failed."""
    tablet.line.answers.clear()
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        tablet.open_page()
    answers = tablet.line.answers
    return 1000 * max(a.took_s for a in answers), sum(a.status != 200 for a in answers)


def _crowded(address: str, tablet: Tablet, factor: float, is_tiny: bool) -> Iterator[Figure]:
    seconds = 2.0 if is_tiny else 15.0
    with half_sent(address, 5 if is_tiny else HALF_SENT):
        slowest, failed = _slowest(tablet, seconds)
    name = f"{HALF_SENT} half-sent requests: slowest page of another, ms"
    yield at_most("load", name, slowest, OTHERS_MS * factor)
    yield at_most("load", "of those, not answered well", failed, 0)
    text = BOOK.read_text(encoding="utf-8")
    asked = [Line(address, "pell") for _ in range(1 if is_tiny else LARGE)]
    threads = [
        threading.Thread(target=one.ask, args=("POST", "/api/books/examine", {"text": text}))
        for one in asked
    ]
    for thread in threads:
        thread.start()
    slowest, failed = _slowest(tablet, seconds)
    for thread, one in zip(threads, asked, strict=True):
        thread.join()
        one.close()
    name = f"{LARGE} books examined at once: slowest page of another, ms"
    yield at_most("load", name, slowest, OTHERS_MS * factor)
    yield at_most("load", "of those pages, not answered well", failed, 0)


@contextmanager
def half_sent(address: str, count: int) -> Iterator[None]:
    """So many connections of strangers that begin a request and never end it."""
    where = urlsplit(address)
    sockets = list[socket.socket]()
    try:
        for number in range(count):
            one = socket.create_connection((str(where.hostname), where.port or 80), timeout=5)
            one.sendall(b"POST /api/session HTTP/1.1\r\nHost: flaneur\r\nContent-Length: 90\r\n")
            if number % 2:
                one.sendall(b"Content-Type: application/json\r\n\r\n{")
            sockets.append(one)
        yield
    finally:
        for one in sockets:
            one.close()


def _live(found: Sequence[Tablet], factor: float, seconds: float) -> Iterator[Figure]:
    """Live looks side by side, watched as the page watches them: seconds of signal that came for
    every second, and how often the numbers changed. Jobs of their own: those at the bench are taken
    apart, and no such engine is started.
    """
    units = {u["tag"]: u["id"] for u in found[0].line.send("GET", "/api/yard")["units"]}
    whole = {"unit_id": units[WATCHED]}
    jobs = [int(t.line.send("POST", "/api/jobs", whole)["id"]) for t in found]
    came, looks = list[float](), list[float]()

    def watch(line: Line, job: int) -> None:
        path = f"/api/jobs/{job}/live"
        line.send("POST", path, {})
        time.sleep(1.5)
        first = line.send("GET", path)
        begun, shown = time.monotonic(), set[str]()
        while (passed := time.monotonic() - begun) < seconds:
            now = line.send("GET", path)
            shown.add(json.dumps(now["cams"]))
            time.sleep(0.25)
        came.append((now["seconds"] - first["seconds"]) / passed)
        looks.append(len(shown) / passed)
        line.send("POST", f"{path}/stop", {})

    all_at_once([lambda t=t, j=j: watch(t.line, j) for t, j in zip(found, jobs, strict=True)])
    name = f"{LIVE} live looks: signal that came of what the engine made"
    yield at_least("load", name, min(came, default=0) if len(came) == len(found) else 0, 0.95)
    name = f"{LIVE} live looks: numbers anew, a second"
    yield at_least("load", name, min(looks, default=0), LOOKS_A_SECOND / factor)


def resident_mb(product: Served) -> float:
    """Memory of everything the supervisor keeps, shared pages counted once."""
    keeper = int((product.data / "supervisor.pid").read_text())
    total, left = 0.0, [keeper]
    while left:
        pid = left.pop()
        found = subprocess.run(["pgrep", "-P", str(pid)], capture_output=True, text=True)
        left += [int(p) for p in found.stdout.split()]
        try:
            lines = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
        except OSError:
            continue
        total += next((int(x.split()[1]) for x in lines if x.startswith("Pss:")), 0) / 1024
    return total


def _memory(product: Served, found: Sequence[Tablet], requests: int) -> Iterator[Figure]:
    """What the processes hold after so many requests against a tenth of them."""

    def ask(times: int) -> None:
        def one(tablet: Tablet) -> None:
            for _ in range(times // 5 // min(8, len(found))):
                tablet.open_page()
            tablet.line.answers.clear()

        all_at_once([lambda t=t: one(t) for t in found[:8]])

    ask(max(20, requests // 10))
    before = resident_mb(product)
    ask(requests)
    after = resident_mb(product)
    yield for_information("load", "memory of all processes, MB", after)
    name = f"memory after {requests} requests more, times"
    yield at_most("load", name, after / before, 1.1)
