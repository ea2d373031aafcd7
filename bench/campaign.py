"""Whether what a verdict says is so as often as it says: engines of all seven books drawn from
their priors, read with ordinary sets of readings, by the loop solver and not by what diagnosis fits
to it.
"""

from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from bench.figure import Figure, at_least, at_most, factor_of, for_information
from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.advice import advise
from flaneur.core.decision.foresight import Foresight
from flaneur.core.diagnosis.abrupt import PHASER_SHARE, TONE_SLIP_SD_DEG, Abrupt, abrupt_faults
from flaneur.core.diagnosis.attribution import attribute
from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.ensemble import Ensemble
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.odds import ORDINARY
from flaneur.core.diagnosis.response import response_of
from flaneur.core.diagnosis.statistics import shares, wear_estimates
from flaneur.core.diagnosis.verdict import verdict_on
from flaneur.core.diagnosis.wear import WORN_OUT, spread_of, unknowns
from flaneur.core.drive.train import DriveTrain
from flaneur.core.engine.compiled import compiled
from flaneur.core.faults.model import Faults
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings, speaks_of_timing

BOOKS = sorted((Path(__file__).resolve().parents[1] / "engines").glob("*.yaml"))
ENGINES = 2000
SURE, BINS = 0.9, 10
LOOKED = ("compress", "endoscope", "noise", "debris", "sweep")
HIDDEN = {
    SuspectKind.LEAK: ORDINARY.leak,
    SuspectKind.LOCK_PIN: ORDINARY.lock_pin,
    SuspectKind.SLOW: ORDINARY.slow,
    SuspectKind.DRIFTS: ORDINARY.drifts,
    SuspectKind.HUNTS: ORDINARY.hunts,
    SuspectKind.FEED: ORDINARY.feed,
}


@dataclass(frozen=True)
class Drawn:
    """One engine: what is wrong with it, and how far its readings err beyond what is said."""

    book: EngineBook
    hours: float
    wear: dict[str, float]
    faults: Faults
    there: frozenset[SuspectKey]
    errors: float
    truth: Ensemble


@dataclass
class Tally:
    """What verdicts said against what was so."""

    said: dict[str, list[float]] = field(default_factory=dict[str, list[float]])
    so: dict[str, list[bool]] = field(default_factory=dict[str, list[bool]])
    held: list[bool] = field(default_factory=list[bool])
    divided: list[bool] = field(default_factory=list[bool])
    named: list[tuple[float, bool]] = field(default_factory=list[tuple[float, bool]])
    over: list[tuple[float, bool]] = field(default_factory=list[tuple[float, bool]])
    score: list[float] = field(default_factory=list[float])


def draw(book: EngineBook, rng: np.random.Generator) -> Drawn:
    """An engine from the priors of its book."""
    hours = float(rng.uniform(500, 6000))
    items = unknowns(book, hours, "good")
    scene = SCENES[int(rng.choice(len(SCENES), p=[s.odds for s in SCENES]))]
    wear = np.empty(len(items))
    for i, item in enumerate(items):
        mean, sd = item.mean * scene.wear, item.sd * spread_of(scene.wear)
        if rng.random() < item.worn_out:
            mean, sd = (k * item.limit for k in WORN_OUT)
        wear[i] = -1.0
        while wear[i] < 0:
            wear[i] = rng.normal(mean, sd)
    faults = [f for f in abrupt_faults(book, items, ORDINARY, frozenset())]
    single = [i for i, f in enumerate(faults) if f.wear_index is None]
    is_there = np.zeros((1, len(faults)), dtype=bool)
    is_there[0, single] = rng.random(len(single)) < [faults[i].prior for i in single]
    chosen = [faults[i] for i in np.flatnonzero(is_there[0])]
    offset, tone = np.zeros((1, len(book.phasers))), np.zeros((1, len(book.cams)))
    slipped: dict[str, float] = {}
    for fault in chosen:
        if fault.phaser:
            mean, sd = (k * book.phasers[fault.phaser].range_deg for k in PHASER_SHARE)
            offset[0, list(book.phasers).index(fault.phaser)] = abs(rng.normal(mean, sd))
        if fault.wheel:
            slipped[fault.key.part] = rng.normal(0, TONE_SLIP_SD_DEG)
        if fault.gone_index is not None:
            wear[fault.gone_index] = 0.0
    crank = rng.normal(0, book.crank_tolerance_deg) + slipped.get(book.crank_wheel_key or "", 0.0)
    for i, cam in enumerate(book.cams):
        own = rng.normal(0, book.cam_tolerance_deg(cam)) if cam in book.cam_wheels else 0.0
        wheel = next((k for k, w in book.tone_wheels.items() if w.shaft == cam), "")
        tone[0, i] = own + slipped.get(wheel, 0.0) - crank
    jumps = {f.key.part: f.teeth for f in chosen if f.teeth}
    parts = {item.key: float(w) for item, w in zip(items, wear, strict=True)}
    state = Faults(
        elongation_pct={k: v for k, v in parts.items() if k in book.chains},
        liner_wear_mm={k: v for k, v in parts.items() if k not in book.chains},
        jumped_teeth=jumps,
    )
    hidden = _hidden(book, rng)
    truth = Ensemble(
        book,
        response_of(book),
        items,
        faults,
        wear[None],
        offset,
        is_there,
        tone,
        hidden,
        np.zeros(1, dtype=bool),
    )
    there = {f.key for f in chosen} | {k for k, found in hidden.items() if found[0]}
    return Drawn(book, hours, parts, state, frozenset(there), scene.errors, truth)


def _hidden(book: EngineBook, rng: np.random.Generator) -> dict[SuspectKey, np.ndarray]:
    keys = [SuspectKey(SuspectKind.LEAK, arm.tensioner) for arm in book.arms.values()]
    keys += [SuspectKey(k, p) for p in book.phasers for k in HIDDEN if k is not SuspectKind.LEAK]
    odds = {key: HIDDEN[key.kind] for key in keys}
    odds[SuspectKey(SuspectKind.OIL_LOW)] = ORDINARY.oil_low
    odds[SuspectKey(SuspectKind.ACCESSORY)] = ORDINARY.accessory
    return {key: rng.random(1) < p for key, p in odds.items()}


def read(drawn: Drawn, rng: np.random.Generator) -> Readings:
    """An ordinary set of readings: most cams, some plungers, a chain laid out now and then, and
    some looks and noises.
    """
    book, truth = drawn.book, drawn.truth
    train = DriveTrain(book)
    state = train.state(drawn.faults)
    moved = truth.moved(truth.offset, np.zeros_like(truth.abrupt)) + truth.wheel
    gone = [f for f, is_there in zip(truth.faults, truth.abrupt[0], strict=True) if is_there]
    late = {
        cam: state.deviation_deg[cam]
        + float(moved[0, i])
        + sum(float(f.shift[i]) for f in gone if f.gone_index is not None)
        for i, cam in enumerate(book.cams)
    }
    cams: list[dict[str, object]] = []
    for cam, deg in late.items():
        sd = float(rng.uniform(0.1, 0.4))
        phaser = book.phaser_of(cam)
        park = rng.normal(0, book.phasers[phaser].park_tolerance_deg / 2) if phaser else 0.0
        value = deg + park + drawn.errors * rng.normal(0, float(np.hypot(sd, 0.05)))
        if rng.random() < 0.85 and abs(value) < 140:
            parked = {"state": "parked"}
            cams.append({"cam": cam, "deviation_deg": value, "stderr_deg": sd, "phaser": parked})
    stuck = {f.stuck for f in gone if f.stuck}
    plungers: list[dict[str, object]] = []
    for chain, mm in state.plunger_mm.items():
        if rng.random() < 0.6 and speaks_of_timing(book, chain) and chain not in stuck:
            tensioner = train.chains[chain].tensioner
            mm = _moved_mm(drawn, chain, mm, gone)
            value = mm + rng.normal(0, tensioner.tolerance_mm) + drawn.errors * rng.normal(0, 0.3)
            value = float(np.clip(value, tensioner.stop_mm, tensioner.max_plunger_mm))
            plungers.append({"chain": chain, "plunger_mm": value, "stderr_mm": 0.3})
    direct: list[dict[str, object]] = []
    for item in truth.items:
        if rng.random() < 0.06:
            sd = 0.08 * item.limit
            value = drawn.wear[item.key] + drawn.errors * rng.normal(0, sd)
            direct.append({"part": item.key, "value": value, "stderr": sd})
    told = {"engine": book.name, "hours": drawn.hours, "oil": "good"}
    figures = {"cams": cams, "plungers": plungers, "direct": direct}
    bare = Readings.model_validate({**told, **figures})
    tests: list[dict[str, object]] = []
    for test in Foresight(book, truth, bare).tests():
        if test.kind in LOOKED and rng.random() < 0.25:
            chance = np.clip(test.chance[:, 0], 0, None)
            code = test.outcomes[int(rng.choice(len(chance), p=chance / chance.sum()))].code
            tests.append(_as_test(test.kind, test.part, code))
    return Readings.model_validate({**told, **figures, "tests": tests})


def _moved_mm(drawn: Drawn, chain: str, mm: float, there: list[Abrupt]) -> float:
    """A plunger's extension with what a guide that is gone gives it to take up."""
    drive = compiled(drawn.book).train.chains[chain]
    row = drawn.truth.response.lines.path(chain)
    more = sum(float(f.shift[row]) for f in there if f.gone_index is not None)
    if not more:
        return mm
    out = np.linspace(0, drive.tensioner.max_plunger_mm, 60)
    path = np.array([drive.taken_up_mm(float(each)) for each in out])
    return float(np.interp(drive.taken_up_mm(mm) + more, path, out))


def _as_test(kind: str, part: str, code: str) -> dict[str, object]:
    if kind == "noise":
        silent = code == "silent"
        where = {} if silent else {"where": code}
        return {"kind": kind, "when": part, "seconds": 0 if silent else 3, **where}
    if kind == "debris":
        plastic, metal = code.split("/")
        return {"kind": kind, "plastic": plastic, "metal": metal}
    if kind == "sweep":
        return {"kind": kind, "part": part, "found": [] if code == "sound" else [code]}
    return {"kind": kind, "part": part, "feel" if kind == "compress" else "finding": code}


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
        p = min(max(estimate.over if is_over else 1 - estimate.over, 1e-4), 1.0)
        tally.score.append(float(np.log(p)))
    alike = {str(f.key): [*f.alike] for f in solved.faults}
    for key, p in now.items():
        kind, part = SuspectKey.of(key)
        no_fault = (SuspectKind.WEAR, SuspectKind.SOUND, SuspectKind.NONE)
        if p > SURE and kind not in no_fault:
            either = [SuspectKey(kind, other) for other in (part, *alike.get(key, []))]
            tally.named.append((p, any(one in drawn.there for one in either)))
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
    yield at_most("diagnosis", f"one verdict, {asked}, ms", took / factor, 50.0)
    took, factor = factor_of(lambda: advise(solved))
    yield at_most("diagnosis", "ranking of tests and actions, ms", took / factor, 300.0)


def run(is_tiny: bool = False) -> Iterator[Figure]:
    """Figures of the campaign."""
    books = [parse_book(path.read_text(encoding="utf-8")) for path in BOOKS]
    if not is_tiny:
        yield from speed(next(book for book in books if book.name == "Ostrey Tansy"))
    tally, engines = Tally(), 2 if is_tiny else ENGINES
    for seed in range(engines):
        rng = np.random.default_rng(20_000 + seed)
        drawn = draw(books[seed % len(books)], rng)
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
    yield from _positive("faults named at over 0.9", "and not there", tally.named, 0.005)
    yield from _positive("parts called over at over 0.9", "and sound", tally.over, 0.01)
    yield for_information(
        "diagnosis", "mean log score, over its limit", float(np.mean(tally.score))
    )


def _positive(
    what: str, wrong: str, found: list[tuple[float, bool]], bar: float
) -> Iterator[Figure]:
    """How often a positive statement was wrong, beside how often it says that it will be."""
    said = 1 - float(np.mean([p for p, _ in found] or [1.0]))
    was = 1 - float(np.mean([is_so for _, is_so in found] or [True]))
    yield for_information("diagnosis", what, len(found))
    yield for_information("diagnosis", f"{what}: wrong by their own odds", said)
    yield at_most("diagnosis", f"{what} {wrong}", was, bar)
