"""How well traces of bolts are judged (simulated parts of eight bolts, one of them at fault), and
that nothing written at the bench is lost or there twice.
"""

import time
from collections import Counter
from collections.abc import Iterator

import numpy as np

from bench import once, presses
from bench.figure import Figure, at_least, at_most, for_information, machine_factor
from bench.house import served
from flaneur.core.book.tasks import Stage
from flaneur.core.fasteners.judging import BoltFault, Program, judge
from flaneur.simulation.tightening import Hand, Joint, tighten

PARTS, BOLTS = 250, 8
WALKS, WALKS_OF_A_NIGHT = 20, 200


def _stage(kind: str, value: float, tolerance: float) -> Stage:
    return Stage.model_validate({"kind": kind, "value": value, "tolerance": tolerance})


PROGRAMS = [
    ([_stage("torque", 60, 5), _stage("angle", 90, 5)], Joint(0.75, 120.0)),
    ([_stage("torque", 35, 3), _stage("angle", 100, 5)], Joint(0.5, 110.0)),
    ([_stage("torque", 10, 1), _stage("torque", 24, 2)], Joint(0.5, 140.0)),
    ([_stage("torque", 10, 1)], Joint(0.3, 120.0)),
]
HANDS = [
    Hand(),
    Hand(speed_deg_s=25.0, stroke_deg=40.0, rate_hz=100.0),
    Hand(speed_deg_s=120.0, stroke_deg=400.0, rate_hz=500.0),
]


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    yield from traces(is_tiny)
    if not is_tiny:
        with served() as product:
            yield from presses.measure(product, machine_factor())
            yield from once.measure(product, WALKS if times == 1 else WALKS_OF_A_NIGHT)


def traces(is_tiny: bool) -> Iterator[Figure]:
    """How well traces are judged."""
    seen, right = Counter[str](), Counter[str]()
    yields, off, taken = 0, 0, list[float]()
    kinds = [None, None, None, *BoltFault]
    for part in range(12 if is_tiny else PARTS):
        rng = np.random.default_rng(60_000 + part)
        stages, joint = PROGRAMS[part % len(PROGRAMS)]
        kind = kinds[int(rng.integers(len(kinds)))]
        if kind is BoltFault.STRETCHED and stages[-1].kind == "torque":
            kind = None  # it never comes to its yield point
        faults: list[BoltFault | None] = [None] * BOLTS
        faults[int(rng.integers(BOLTS))] = kind
        hand = HANDS[int(rng.integers(len(HANDS)))]
        made = [
            tighten(f"bolt {i}", stages, rng, f, float(rng.uniform(1.0, 1.6)), joint, hand)
            for i, f in enumerate(faults, 1)
        ]
        begun = time.perf_counter()
        found = judge([trace for trace, _ in made], Program(stages=stages))
        taken.append((time.perf_counter() - begun) / BOLTS)
        for (_, truth), judged in zip(made, found, strict=True):
            name = truth.fault or "sound"
            codes = {f.code for f in judged.faults}
            seen[name] += 1
            right[name] += truth.fault in codes if truth.fault else not codes
            if truth.yields_deg is not None and truth.fault in (None, BoltFault.STRETCHED):
                yields += 1
                told = judged.yields.angle_deg if judged.yields else np.inf
                stretch = judged.stretch_deg or 1.0
                off += abs(told - truth.yields_deg) > max(4.0, 0.05 * stretch)
    yield for_information("bench", "traces judged", sum(seen.values()))
    for fault in BoltFault:
        share = right[fault] / max(seen[fault], 1)
        yield at_least("bench", f"{fault} recognised, share of {seen[fault]}", share, 0.97)
    called = 1 - right["sound"] / max(seen["sound"], 1)
    yield at_most("bench", f"sound bolts called bad, share of {seen['sound']}", called, 0.01)
    yield at_most(
        "bench",
        f"yield points off by over 4° or 5 %, share of {yields}",
        off / max(yields, 1),
        0.03,
    )
    bar = 20 * machine_factor()
    yield at_most("bench", "ms a trace, median", 1000 * float(np.median(taken)), bar)
