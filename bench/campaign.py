"""Whether what a verdict says is so as often as it says: engines of all seven books drawn from
their priors, read with ordinary sets of readings, by the loop solver and not by what diagnosis fits
to it.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from bench.engines import Drawn, books, draw, read
from bench.figure import Figure, at_least, at_most, factor_of, for_information
from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.advice import advise
from flaneur.core.diagnosis.attribution import attribute
from flaneur.core.diagnosis.found import STATED
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.statistics import readings_fit, shares, wear_estimates
from flaneur.core.diagnosis.verdict import verdict_on
from flaneur.core.drive.train import DriveTrain
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings, speaks_of_timing

ENGINES = 2000
SURE, BINS = 0.9, 10


@dataclass
class Tally:
    """What verdicts said against what was so."""

    said: dict[str, list[float]] = field(default_factory=dict[str, list[float]])
    so: dict[str, list[bool]] = field(default_factory=dict[str, list[bool]])
    held: list[bool] = field(default_factory=list[bool])
    divided: list[bool] = field(default_factory=list[bool])
    named: list[tuple[float, bool]] = field(default_factory=list[tuple[float, bool]])
    over: list[tuple[float, bool]] = field(default_factory=list[tuple[float, bool]])
    stated: list[tuple[float, bool]] = field(default_factory=list[tuple[float, bool]])
    stated_over: list[tuple[float, bool]] = field(default_factory=list[tuple[float, bool]])
    score: list[float] = field(default_factory=list[float])


def judge(drawn: Drawn, solved: Solved, tally: Tally) -> None:
    """Hold what is said of one engine against what is so."""
    now, limits = shares(solved), {item.key: item.limit for item in solved.items}
    kinds = {item.key: item.kind for item in solved.items}
    for estimate in wear_estimates(solved):
        if not estimate.is_read:
            continue
        true, key = drawn.wear[estimate.key], estimate.key
        is_over = true > limits[key]
        tally.said.setdefault(kinds[key], []).append(estimate.over)
        tally.so.setdefault(kinds[key], []).append(is_over)
        tally.held.append(estimate.low <= true <= estimate.high)
        if estimate.over > SURE:
            tally.over.append((estimate.over, is_over))
        if estimate.is_stated and estimate.over > SURE:
            tally.stated_over.append((estimate.over, is_over))
        tally.score.append(log_score(estimate.over, is_over))
    alike, fits = {str(f.key): [*f.alike] for f in solved.faults}, readings_fit(solved)
    for key, p in now.items():
        kind, part = SuspectKey.of(key)
        no_fault = (SuspectKind.WEAR, SuspectKind.SOUND, SuspectKind.NONE)
        if p > SURE and kind not in no_fault:
            either = [SuspectKey(kind, other) for other in (part, *alike.get(key, []))]
            tally.named.append((p, any(one in drawn.there for one in either)))
            if fits and p > STATED:
                tally.stated.append(tally.named[-1])
    seen = solved.problem.seen
    true_x = np.array([drawn.wear[item.key] for item in solved.items])
    for i, row in enumerate(seen.rows):
        if row.kind != "cam" or abs(row.value) <= drawn.book.limits.cam_deviation_deg:
            continue
        line = seen.matrix[i] * true_x
        total, curved = line.sum(), seen.response.of(true_x)[row.at]
        terms = line * (curved / total if abs(total) > 1e-3 else 1.0)
        for fault, is_there in zip(drawn.truth.faults, drawn.truth.abrupt[0], strict=True):
            if fault.gone_index is not None and is_there:
                terms[fault.gone_index] += fault.shift[row.at]
        for share in attribute(solved, i):
            if share.part in drawn.wear:
                true = terms[[item.key for item in solved.items].index(str(share.part))]
                tally.divided.append(share.low - 1e-6 <= true <= share.high + 1e-6)


def log_score(over: float, is_over: bool) -> float:
    """Log of the odds given to what is so, at least one in ten thousand."""
    return float(np.log(min(max(over if is_over else 1 - over, 1e-4), 1.0)))


def calibration_error(said: list[float], so: list[bool]) -> float:
    """Expected calibration error: over bins of equal width, mean of |said − so|, by their share."""
    p, y = np.array(said), np.array(so, dtype=float)
    at = np.minimum((p * BINS).astype(int), BINS - 1)
    return float(
        sum((at == b).mean() * abs(p[at == b].mean() - y[at == b].mean()) for b in np.unique(at))
    )


def speed(book: EngineBook) -> Iterator[Figure]:
    """How long one verdict and the ranking of tests take, of twelve readings and six tests, the
    engine compiled; milliseconds of the machine that bars are set on.
    """
    rng = np.random.default_rng(7)
    drawn = draw(book, rng)
    cams = [
        {
            "cam": cam,
            "deviation_deg": 2.0 + 0.1 * k,
            "stderr_deg": 0.2,
            "phaser": {"state": "parked"},
        }
        for k in range(2)
        for cam in book.cams
    ]
    plungers = [
        {"chain": c, "plunger_mm": mm, "stderr_mm": 0.3}
        for c, mm in DriveTrain(book).state(drawn.faults).plunger_mm.items()
        if speaks_of_timing(book, c)
    ]
    tests = [
        {"kind": "noise", "when": "cold_start", "where": "front_top_a", "seconds": 3},
        {"kind": "complaint", "rattle": "cold_start"},
        {"kind": "codes", "codes": ["P0016"]},
        {"kind": "compress", "part": "chain_a", "feel": "springy"},
        {"kind": "endoscope", "part": "guide_a", "finding": "worn"},
        {"kind": "debris", "plastic": "some", "metal": "none"},
    ]
    direct = [{"part": "guide_b", "value": 0.5, "stderr": 0.2}]
    told = {"engine": book.name, "hours": 3000, "oil": "good", "tests": tests}
    readings = Readings.model_validate(
        {**told, "cams": cams, "plungers": plungers, "direct": direct}
    )
    solved = solve_readings(book, readings)
    asked = f"{len(cams) + len(plungers) + len(direct)} readings and {len(tests)} tests"
    took, factor = factor_of(lambda: verdict_on(solve_readings(book, readings), False))
    # A third fault is gone through wherever two carry something.
    yield at_most("diagnosis", f"one verdict, {asked}, with triples, ms", took / factor, 150.0)
    took, factor = factor_of(lambda: advise(solved))
    yield at_most("diagnosis", "ranking of tests and actions, ms", took / factor, 300.0)


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    """Figures of the campaign."""
    every_book = books()
    if not is_tiny:
        yield from speed(next(book for book in every_book if book.name == "Ostrey Tansy"))
    tally, engines = Tally(), 2 if is_tiny else ENGINES * times
    for seed in range(engines):
        rng = np.random.default_rng(20_000 + seed)
        drawn = draw(every_book[seed % len(every_book)], rng)
        judge(drawn, solve_readings(drawn.book, read(drawn, rng)), tally)
    every = [p for part in tally.said.values() for p in part]
    so = [s for part in tally.so.values() for s in part]
    yield for_information("diagnosis", "parts judged", len(every))
    yield at_most(
        "diagnosis", "calibration error, over its limit", calibration_error(every, so), 0.01
    )
    for kind, said in tally.said.items():
        if len(said) >= 500:
            error = calibration_error(said, tally.so[kind])
            yield at_most("diagnosis", f"calibration error, {kind}", error, 0.03)
    held = float(np.mean(tally.held))
    yield at_least("diagnosis", "90 % intervals hold, of parts drawn", held, 0.885)
    yield at_most("diagnosis", "90 % intervals hold, of parts drawn", held, 0.915)
    divided = float(np.mean(tally.divided or [0.9]))
    yield for_information("diagnosis", "shares of figures divided", len(tally.divided))
    yield at_least("diagnosis", "true share in its 90 % interval", divided, 0.88)
    yield at_most("diagnosis", "true share in its 90 % interval", divided, 0.92)
    yield from stated(tally, 0.005, 0.01)
    yield from _as_often("faults named at over 0.9", "and not there", tally.named)
    yield from _as_often("parts called over at over 0.9", "and sound", tally.over)
    yield for_information(
        "diagnosis", "mean log score, over its limit", float(np.mean(tally.score))
    )


def wrong_of(found: list[tuple[float, bool]]) -> float:
    """The share of positive statements that were wrong."""
    return 1 - float(np.mean([is_so for _, is_so in found] or [True]))


def stated(tally: Tally, of_faults: float, of_parts: float, where: str = "") -> Iterator[Figure]:
    """How often what a verdict says flatly was wrong: that a fault is there, that a part is over
    its limit.
    """
    for what, wrong, found, bar in (
        ("faults said flatly", "and not there", tally.stated, of_faults),
        ("parts said flatly to be over", "and sound", tally.stated_over, of_parts),
    ):
        yield for_information("diagnosis", f"{where}{what}", len(found))
        yield at_most("diagnosis", f"{where}{what} {wrong}", wrong_of(found), bar)


def _as_often(what: str, wrong: str, found: list[tuple[float, bool]]) -> Iterator[Figure]:
    """Whether what is said as likely is wrong as often as its odds have it, within chance: two
    deviations, and one.
    """
    odds = np.array([1 - p for p, _ in found])
    expected, chance = float(odds.sum()), float(np.sqrt((odds * (1 - odds)).sum()))
    count = sum(not is_so for _, is_so in found)
    yield for_information("diagnosis", what, len(found))
    yield for_information("diagnosis", f"{what}: wrong by their own odds", expected)
    yield at_most("diagnosis", f"{what} {wrong}", count, expected + 2 * chance + 1)
