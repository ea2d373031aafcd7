"""Captures with everyday troubles: read or rightly refused, never confidently wrong, and the error
that is stated is the error that is made.

Each family is drawn over all books that can be captured, sensors unlike each other by what the
books allow. What the sensors' delays add counts for calibration; for the worst error of a family it
is taken off, since it is no fault of the decoding.
"""

import sys
import zlib
from collections.abc import Iterator

import numpy as np

from bench.figure import Figure, at_least, at_most, for_information
from bench.troubles import READ, REFUSED, Trouble
from bench.variants import every_book
from flaneur.core.errors import CaptureError
from flaneur.core.signals.correlation import Correlation, correlate

EACH = 60
WORST = {  # crank degrees beyond what the sensors' delays add
    "spikes": 0.3,
    "lost teeth": 0.1,
    "bent teeth": 0.2,
    "cranking": 0.3,
    "hum": 0.1,
}


class _Tally:
    def __init__(self) -> None:
        self.scaled: list[float] = []
        self.silent = self.refused = self.asked = 0

    def add(self, trouble: Trouble, found: Correlation) -> float:
        """Count one capture's cams; its worst error beyond delays."""
        worst = 0.0
        for cam in found.cams:
            true = trouble.moved.get(cam.cam, (0.0, trouble.true_deg[cam.cam]))[1]
            error = cam.deviation_deg - true
            self.scaled.append(error / cam.stderr_deg)
            self.silent += not found.quality and abs(error) > 3 * cam.stderr_deg + 0.3
            worst = max(worst, abs(error - trouble.delayed_deg[cam.cam]))
        return worst


def run(is_tiny: bool = False) -> Iterator[Figure]:
    """Every family, those to be read and those to be refused."""
    each, most = (1, 2) if is_tiny else (EACH, None)
    books = [book for book in every_book() if book.can_be_captured]
    all_of_it = _Tally()
    for kind, make in list(READ.items())[:most]:
        worst, mild, unsaid = 0.0, 0.0, 0
        for number in range(each):
            rng = np.random.default_rng(zlib.crc32(kind.encode()) + number)
            trouble = make(books[number % len(books)], rng)
            all_of_it.asked += 1
            try:
                found = correlate(trouble.capture, trouble.book)
            except CaptureError as error:
                all_of_it.refused += 1
                print(f"  refused: {kind} {number}, {trouble.said}: {error}", file=sys.stderr)
                continue
            off = all_of_it.add(trouble, found)
            worst = max(worst, off)
            if trouble.said.get("a_second", 100) <= 50:
                mild = max(mild, off)
            unsaid += sum(c.moved is None for c in found.cams if c.cam in trouble.moved)
        if kind in WORST:
            yield at_most("correlation", f"{kind}: worst error, degrees", worst, WORST[kind])
        if kind == "spikes":
            yield at_most(
                "correlation", "spikes, up to 50 a second: worst error, degrees", mild, 0.1
            )
        if kind == "moves":
            yield at_most("correlation", "cams that moved by 2° or more without a word", unsaid, 0)
    scaled = np.array(all_of_it.scaled)
    spread = float(np.sqrt(np.mean(scaled**2)))
    yield at_least("correlation", "error over its standard error, all families", spread, 0.85)
    yield at_most("correlation", "error over its standard error, all families", spread, 1.15)
    yield at_most(
        "correlation",
        "errors beyond three standard errors, share",
        float(np.mean(np.abs(scaled) > 3)),
        0.01,
    )
    yield at_most("correlation", "confident wrong answers, all families", all_of_it.silent, 0)
    yield at_most("correlation", "false refusals, share", all_of_it.refused / all_of_it.asked, 0.02)
    yield from _refusals(each, most)


def _refusals(each: int, most: int | None) -> Iterator[Figure]:
    right, asked = 0, 0
    books = [book for book in every_book() if book.can_be_captured]
    for kind, (make, reason) in list(REFUSED.items())[:most]:
        for number in range(each):
            rng = np.random.default_rng(zlib.crc32(kind.encode()) + number)
            trouble = make(books[number % len(books)], rng)
            asked += 1
            try:
                correlate(trouble.capture, trouble.book)
            except CaptureError as error:
                right += reason in str(error)
                if reason not in str(error):
                    print(f"  other reason: {kind} {number}: {error}", file=sys.stderr)
    yield for_information("correlation", "captures to be refused", asked)
    yield at_least("correlation", "refusals with the right reason, share", right / asked, 0.95)
