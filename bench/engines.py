"""Engines drawn from the priors of their book, and readings of them: by the loop solver and not by
what diagnosis fits to it.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from pathlib import Path

import numpy as np

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.foresight import Foreseen, Foresight
from flaneur.core.diagnosis.abrupt import PHASER_SHARE, TONE_SLIP_SD_DEG, Abrupt, abrupt_faults
from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.ensemble import Ensemble
from flaneur.core.diagnosis.odds import ORDINARY
from flaneur.core.diagnosis.response import response_of
from flaneur.core.diagnosis.wear import WORN_OUT, WearUnknown, spread_of, unknowns
from flaneur.core.drive.train import DriveState, DriveTrain
from flaneur.core.engine.compiled import compiled
from flaneur.core.faults.model import Faults
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings, speaks_of_timing

MISREAD_SD_MM = 5.0
LOOKED = ("compress", "endoscope", "noise", "debris", "sweep")
HIDDEN = {
    SuspectKind.LEAK: ORDINARY.leak,
    SuspectKind.LOCK_PIN: ORDINARY.lock_pin,
    SuspectKind.SLOW: ORDINARY.slow,
    SuspectKind.DRIFTS: ORDINARY.drifts,
    SuspectKind.HUNTS: ORDINARY.hunts,
    SuspectKind.FEED: ORDINARY.feed,
}
Told = dict[str, object]


def books() -> list[EngineBook]:
    """All seven."""
    folder = Path(__file__).resolve().parents[1] / "engines"
    return [parse_book(path.read_text(encoding="utf-8")) for path in sorted(folder.glob("*.yaml"))]


@dataclass(frozen=True)
class Drawn:
    """One engine: what is wrong with it, and how far its readings err beyond what is said.
    ``shorter_mm``: chains whose tensioner is another one, its plunger so much shorter.
    """

    book: EngineBook
    hours: float
    wear: dict[str, float]
    faults: Faults
    there: frozenset[SuspectKey]
    errors: float
    truth: Ensemble
    shorter_mm: Mapping[str, float] = field(default_factory=dict[str, float])

    @cached_property
    def state(self) -> DriveState:
        """Where its shafts and plungers stand, by the loops."""
        return DriveTrain(self.book).state(self.faults)

    @cached_property
    def there_at_once(self) -> list[Abrupt]:
        """Its abrupt faults."""
        pairs = zip(self.truth.faults, self.truth.abrupt[0], strict=True)
        return [fault for fault, is_there in pairs if is_there]

    @cached_property
    def late_deg(self) -> dict[str, float]:
        """What an errorless capture with phasers parked shows of every cam."""
        truth = self.truth
        moved = truth.moved(truth.offset, np.zeros_like(truth.abrupt)) + truth.wheel
        return {
            cam: self.state.deviation_deg[cam]
            + float(moved[0, i])
            + sum(float(f.shift[i]) for f in self.there_at_once if f.gone_index is not None)
            for i, cam in enumerate(self.book.cams)
        }

    def cam(self, cam: str, rng: np.random.Generator) -> Told:
        """A cam as a capture reads it."""
        sd = float(rng.uniform(0.1, 0.4))
        phaser = self.book.phaser_of(cam)
        park = rng.normal(0, self.book.phasers[phaser].park_tolerance_deg / 2) if phaser else 0.0
        error = self.errors * rng.normal(0, float(np.hypot(sd, 0.05)))
        value = self.late_deg[cam] + park + error
        parked = {"state": "parked"}
        return {"cam": cam, "deviation_deg": value, "stderr_deg": sd, "phaser": parked}

    def has_plunger(self, chain: str) -> bool:
        """Whether a plunger tells of its chain: it has one, it times something, it follows."""
        stuck = {f.stuck for f in self.there_at_once if f.stuck}
        is_there = chain in self.state.plunger_mm and chain not in stuck
        return is_there and speaks_of_timing(self.book, chain)

    def plunger(self, chain: str, rng: np.random.Generator) -> Told:
        """A plunger as it is measured."""
        tensioner = compiled(self.book).train.chains[chain].tensioner
        mm = _moved_mm(self, chain, self.state.plunger_mm[chain], self.there_at_once)
        mm -= self.shorter_mm.get(chain, 0.0)
        if any(f.blind == chain for f in self.there_at_once):
            mm += rng.normal(0, MISREAD_SD_MM)
        value = mm + rng.normal(0, tensioner.tolerance_mm) + self.errors * rng.normal(0, 0.3)
        value = float(np.clip(value, tensioner.stop_mm, tensioner.max_plunger_mm))
        return {"chain": chain, "plunger_mm": value, "stderr_mm": 0.3}

    def part(self, item: WearUnknown, rng: np.random.Generator) -> Told:
        """A part laid out and measured."""
        sd = 0.08 * item.limit
        value = self.wear[item.key] + self.errors * rng.normal(0, sd)
        return {"part": item.key, "value": value, "stderr": sd}

    def told(self) -> Told:
        """What the customer says."""
        return {"engine": self.book.name, "hours": self.hours, "oil": "good"}


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
    cams: list[Told] = []
    for cam in drawn.book.cams:
        one = drawn.cam(cam, rng)
        if rng.random() < 0.85 and abs(float(str(one["deviation_deg"]))) < 140:
            cams.append(one)
    plungers = [
        drawn.plunger(chain, rng)
        for chain in drawn.state.plunger_mm
        if rng.random() < 0.6 and drawn.has_plunger(chain)
    ]
    direct = [drawn.part(item, rng) for item in drawn.truth.items if rng.random() < 0.06]
    figures = drawn.told() | {"cams": cams, "plungers": plungers, "direct": direct}
    tests = [
        looked(test, rng)
        for test in foreseen(drawn, Readings.model_validate(figures))
        if test.kind in LOOKED and rng.random() < 0.25
    ]
    return Readings.model_validate(figures | {"tests": tests})


def foreseen(drawn: Drawn, readings: Readings) -> list[Foreseen]:
    """Tests not done yet, with the chance of each outcome in this engine."""
    return Foresight(drawn.book, drawn.truth, readings).tests()


def looked(test: Foreseen, rng: np.random.Generator) -> Told:
    """A test that gives no figure, as it came out."""
    chance = np.clip(test.chance[:, 0], 0, None)
    code = test.outcomes[int(rng.choice(len(chance), p=chance / chance.sum()))].code
    return _as_test(test.kind, test.part, code)


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
