"""How often diagnosis names the fault, holds the wear, and lets a sound engine be: 200 engines of
each.
"""

from collections.abc import Iterator

import numpy as np

from bench import campaign, sampler, strained, testing
from bench.figure import Figure, at_least, at_most
from bench.variants import BOOK
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.statistics import confounded_with, shares, wear_estimates
from flaneur.core.diagnosis.wear import unknowns
from flaneur.core.drive.train import DriveTrain
from flaneur.core.faults.model import Faults
from flaneur.core.readings.taken import (
    CamReading,
    PhaserState,
    PlungerReading,
    Readings,
    speaks_of_timing,
)
from flaneur.simulation.placement import placed_state
from flaneur.simulation.synthesis import true_deviation_deg

ENGINES = 200
STDERR_DEG, STDERR_MM = 0.05, 0.2


def draw_engine(
    book: EngineBook, hours: float, suspect: str | None, rng: np.random.Generator
) -> Faults:
    """Ordinary wear below the limits, tone wheels within tolerance, and one fault of random size
    above its limit.
    """
    wear: dict[str, float] = {}
    for item in unknowns(book, hours, "good"):
        value = -1.0
        while not 0 <= value <= item.limit:
            value = float(rng.normal(item.mean, item.sd))
        wear[item.key] = value
    tone = {
        key: float(rng.normal(0, wheel.tolerance_deg)) for key, wheel in book.tone_wheels.items()
    }
    jumps: dict[str, int] = {}
    phasers: dict[str, float] = {}
    kind, _, part = (suspect or "").partition(":")
    if kind == "wear":
        limit = next(i.limit for i in unknowns(book, hours, "good") if i.key == part)
        liner = book.guides.get(part) or book.arms.get(part)
        most = 2.0 if liner is None else min(2.0, liner.liner_mm / limit)
        wear[part] = limit * float(rng.uniform(1, most))
    elif kind == "jump":
        jumps[part] = int(rng.choice([-1, 1, 1, 2]))
    elif kind == "phaser":
        phaser = book.phasers[part]
        phasers[part] = -float(rng.uniform(5 * phaser.park_tolerance_deg, phaser.range_deg))
    elif kind == "tone":
        tone[part] += float(rng.choice([-1, 1]) * rng.uniform(4, 20))
    return Faults(
        elongation_pct={k: v for k, v in wear.items() if k in book.chains},
        liner_wear_mm={k: v for k, v in wear.items() if k not in book.chains},
        jumped_teeth=jumps,
        phaser_offset_deg=phasers,
        tone_wheel_offset_deg=tone,
    )


def measure(book: EngineBook, faults: Faults, hours: float, rng: np.random.Generator) -> Readings:
    """Read every cam (phasers parked) and every plunger, with ordinary errors. Truth from
    pin-by-pin placement.
    """
    plunger = placed_state(book, faults).plunger_mm
    cams = [
        CamReading(
            cam=c,
            deviation_deg=d + rng.normal(0, STDERR_DEG),
            stderr_deg=STDERR_DEG,
            phaser=PhaserState(state="parked"),
        )
        for c, d in true_deviation_deg(book, faults).items()
    ]
    train = DriveTrain(book)
    plungers = [
        PlungerReading(
            chain=c,
            plunger_mm=float(
                np.clip(
                    mm
                    + rng.normal(0, STDERR_MM)
                    + rng.normal(0, train.chains[c].tensioner.tolerance_mm),
                    0,
                    train.chains[c].tensioner.max_plunger_mm,
                )
            ),
            stderr_mm=STDERR_MM,
        )
        for c, mm in plunger.items()
        if speaks_of_timing(book, c)
    ]
    return Readings(engine=book.name, hours=hours, oil="good", cams=cams, plungers=plungers)


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    engines = 3 if is_tiny else ENGINES
    book = parse_book(BOOK.read_text())
    train = DriveTrain(book)
    # What times nothing (an oil-pump chain) is judged by its own limit and is no suspect of cam
    # readings.
    suspects = [f"wear:{item.key}" for item in unknowns(book, 3000, "good")]
    suspects += [f"jump:{c}" for c in train.contacts()]
    suspects += [f"phaser:{p}" for p in book.phasers] + [f"tone:{t}" for t in book.tone_wheels]
    first = strict = held = worn = 0
    for seed in range(engines):
        rng = np.random.default_rng(1000 + seed)
        suspect = suspects[seed % len(suspects)]
        hours = float(rng.uniform(1500, 6000))
        faults = draw_engine(book, hours, suspect, rng)
        solved = solve_readings(book, measure(book, faults, hours, rng))
        ranked = shares(solved)
        leader = max(ranked, key=lambda k: ranked[k])
        alike = {str(f.key): [f"jump:{c}" for c in f.alike] for f in solved.faults}
        found = {leader, *confounded_with(solved, leader)}
        strict += suspect in (leader, *alike.get(leader, []))
        first += suspect in found or any(suspect in alike.get(k, []) for k in found)
        if suspect.startswith("wear:"):
            worn += 1
            part = suspect.split(":")[1]
            truth = faults.elongation_pct.get(part, faults.liner_wear_mm.get(part, 0.0))
            estimate = next(w for w in wear_estimates(solved) if w.key == part)
            held += estimate.low <= truth <= estimate.high
    yield at_least("diagnosis", "true fault or its confounded set first", first / engines, 0.85)
    yield at_least("diagnosis", "true fault itself first, for information", strict / engines, 0.0)
    yield at_least("diagnosis", "90 % interval holds the true wear", held / max(worn, 1), 0.85)
    yield at_most("diagnosis", "90 % interval holds the true wear", held / max(worn, 1), 0.95)
    accused = 0
    for seed in range(engines):
        rng = np.random.default_rng(9000 + seed)
        hours = float(rng.uniform(1500, 6000))
        faults = draw_engine(book, hours, None, rng)
        now = shares(solve_readings(book, measure(book, faults, hours, rng)))
        accused += any(p > 0.5 for key, p in now.items() if key != "sound")
    yield at_most("diagnosis", "sound engine accused at over 0.5", accused / engines, 0.05)
    yield from campaign.run(is_tiny, times)
    yield from sampler.run(is_tiny, times)
    yield from strained.run(is_tiny, times)
    yield from testing.run(is_tiny, times)
