"""What each test would show in each engine that may be this one: its outcomes, and how likely each
of them is there.

A figure is cut into bins of equal odds: what a bin tells is a little less than what the figure
tells, so that no test is promised more than it gives.
"""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.catalogue import Cost, cost_of
from flaneur.core.diagnosis.codes import correlation_code, phaser_codes_of
from flaneur.core.diagnosis.ensemble import Ensemble
from flaneur.core.diagnosis.fitting import play_deg
from flaneur.core.diagnosis.hearing import NOISE_OF, ears_of, home_of, home_of_chain
from flaneur.core.diagnosis.hidden import FALSE, FEELS, OIL_SD, OIL_SHARE, SEEN
from flaneur.core.diagnosis.likelihood import (
    CORRELATION_DEG,
    CORRELATION_SD_DEG,
    FAR_SETS,
    GONE_SHARE,
    MISCOUNT,
    SENSOR_SETS,
    debris_level,
    look_odds,
    tool_odds,
)
from flaneur.core.diagnosis.silences import slackness
from flaneur.core.drive.counts import links_added
from flaneur.core.engine.compiled import compiled
from flaneur.core.gauss import cdf
from flaneur.core.keys import Contact, SuspectKind
from flaneur.core.readings.taken import Readings, speaks_of_timing
from flaneur.core.readings.tests import ELSEWHERE, FOOT, ToolFit

Floats = NDArray[np.float64]
Bools = NDArray[np.bool_]
BINS = 10
CAM_SD_DEG, PLUNGER_SD_MM, LASH_SD_DEG, MARK_SD_DEG = 0.25, 0.35, 0.7, 0.9
PHASER_SETS = 0.6  # how often a phaser at fault sets a code of its own


@dataclass(frozen=True)
class Outcome:
    """One way a test may come out: a code for what is no figure, else from ``low`` to ``high`` in
    ``unit``.
    """

    code: str = ""
    low: float = -np.inf
    high: float = np.inf
    unit: str = ""


@dataclass(frozen=True)
class Foreseen:
    """A test not done yet: its kind, its part, what it takes, its outcomes, and the chance (O, R)
    of each in each engine.
    """

    kind: str
    part: str
    cost: Cost
    outcomes: list[Outcome]
    chance: Floats


@dataclass(frozen=True)
class Foresight:
    """Everything that can still be tested on an engine."""

    book: EngineBook
    engines: Ensemble
    readings: Readings

    def tests(self) -> list[Foreseen]:
        """Every test of this engine that is not done yet."""
        made = [
            *self._cams(),
            *self._plungers(),
            *self._lash(),
            *self._tools(),
            *self._marks(),
            *self._links(),
            *self._compress(),
            *self._looks(),
            *self._debris(),
            *self._noises(),
            *self._oil(),
            *self._codes(),
            *self._sweeps(),
        ]
        done = {(t.kind, getattr(t, "part", "")) for t in self.readings.tests}
        done |= {("noise", t.when) for t in self.readings.tests if t.kind == "noise"}
        return [t for t in made if (t.kind, t.part) not in done]

    def _of(self, kind: str, part: str, chance: dict[str, Floats]) -> Foreseen:
        """A test with outcomes by code; of what is not listed, nothing is made."""
        outcomes = [Outcome(code) for code in chance]
        each = np.stack(list(chance.values()))
        whole = each.sum(axis=0)
        return Foreseen(kind, part, cost_of(self.book, kind, part), outcomes, each / whole)

    def _figure(self, kind: str, part: str, values: Floats, sd: float, unit: str) -> Foreseen:
        """A test that gives a figure, (R,) true ones, read with that error."""
        edges = np.quantile(values, np.linspace(0, 1, BINS + 1)[1:-1])
        inner = np.unique(np.round(edges, 1))
        bounds = [-np.inf, *map(float, inner), np.inf]
        below = np.stack([cdf((b - values) / sd) for b in bounds])
        outcomes = [Outcome("", lo, hi, unit) for lo, hi in pairwise(bounds)]
        return Foreseen(
            kind, part, cost_of(self.book, kind, part), outcomes, np.diff(below, axis=0)
        )

    @property
    def _late(self) -> Floats:
        """How late each cam stands, its phaser's offset in it, (R, cams)."""
        e = self.engines
        return e.bare_late(e.wear) + e.moved(e.offset, e.abrupt)

    def _cams(self) -> list[Foreseen]:
        """A capture reads every cam at once; it is foreseen by each of them, and worth what it is
        worth by the one that decides most.
        """
        book, read = self.book, {r.cam for r in self.readings.cams}
        shown = self._late + self.engines.wheel
        return [
            self._figure("capture", cam, shown[:, i], self._cam_sd(cam), "°")
            for i, cam in enumerate(book.cams)
            if book.crank_wheel_key and cam in book.cam_wheels and cam not in read
        ]

    def _cam_sd(self, cam: str) -> float:
        key = self.book.phaser_of(cam)
        park = self.book.phasers[key].park_tolerance_deg / 2 if key else 0.0
        return float(np.hypot(CAM_SD_DEG, park))

    def _plungers(self) -> list[Foreseen]:
        book, found = self.book, list[Foreseen]()
        read = {r.chain for r in self.readings.plungers}
        engines = self.engines
        rows = engines.response.of(engines.wear)
        for arm in book.arms.values():
            chain = arm.chain
            if chain in read or not speaks_of_timing(book, chain):
                continue
            drive = compiled(book).train.chains[chain]
            out = np.linspace(drive.tensioner.stop_mm, drive.tensioner.max_plunger_mm, 40)
            path = np.array([drive.taken_up_mm(float(mm)) for mm in out])
            values = np.interp(rows[:, engines.response.lines.path(chain)], path, out)
            stuck = engines.has(SuspectKind.STUCK, arm.tensioner)
            values = np.where(stuck, np.median(values) / 2, values)
            sd = float(np.hypot(PLUNGER_SD_MM, drive.tensioner.tolerance_mm))
            found.append(self._figure("plunger", chain, values, sd, "mm"))
        return found

    def _lash(self) -> list[Foreseen]:
        engines = self.engines
        rows = engines.response.of(engines.wear)
        return [
            self._figure("lash", c, rows[:, engines.response.lines.lash(c)], LASH_SD_DEG, "°")
            for c in self.book.cams
        ]

    def _tools(self) -> list[Foreseen]:
        found: list[Foreseen] = []
        for i, cam in enumerate(self.book.cams):
            check = self.book.check_of(cam)
            if check is None or check.tool is None:
                continue
            chance: dict[str, Floats] = {}
            for fit in ("slides_on", "starts", "does_not_start"):
                test = ToolFit.model_validate(
                    {
                        "kind": "tool_fit",
                        "part": cam,
                        "crank_deg": check.crank_deg,
                        "fit": fit,
                        "slack": "taken_up",
                    }
                )
                play = play_deg(self.book, test)
                assert play is not None
                chance[fit] = tool_odds(test, self._late[:, i], play)
            found.append(self._of("tool_fit", cam, chance))
        return found

    def _marks(self) -> list[Foreseen]:
        book, found = self.book, list[Foreseen]()
        for key, mark in book.marks.items():
            part = book.sprockets.get(mark.wheel) or book.gears.get(mark.wheel)
            if not mark.is_timing or part is None or part.shaft not in book.cams:
                continue
            late = self._late[:, book.cams.index(part.shaft)]
            found.append(self._figure("mark_miss", key, late, MARK_SD_DEG, "°"))
        return found

    def _links(self) -> list[Foreseen]:
        book, found = self.book, list[Foreseen]()
        for chain, part in book.chains.items():
            for n, count in enumerate(part.counts):
                more = np.zeros(len(self.engines))
                for i, fault in enumerate(self.engines.faults):
                    if fault.teeth and Contact.of(fault.key.part).chain == chain:
                        added = links_added(
                            part, Contact.of(fault.key.part), count.start, count.end
                        )
                        more += fault.teeth * added * self.engines.abrupt[:, i]
                wrong = MISCOUNT["taken_up"]
                right = np.where(more == 0, 1 - wrong, wrong * 0.9)
                found.append(
                    self._of("links", f"{chain}.{n}", {"as_booked": right, "other": 1 - right})
                )
        return found

    def _compress(self) -> list[Foreseen]:
        found: list[Foreseen] = []
        for arm in self.book.arms.values():
            if not speaks_of_timing(self.book, arm.chain):
                continue
            stuck = self.engines.has(SuspectKind.STUCK, arm.tensioner)
            leaks = self.engines.has(SuspectKind.LEAK, arm.tensioner)
            state = np.where(stuck, 2, leaks.astype(int))
            chance = {feel: np.array(row)[state] for feel, row in FEELS.items()}
            found.append(self._of("compress", arm.chain, chance))
        return found

    def _gone(self, key: str) -> Bools:
        return self.engines.has(SuspectKind.GONE, key)

    def _looks(self) -> list[Foreseen]:
        return [
            self._of(
                "endoscope",
                item.key,
                {
                    finding: look_odds(
                        finding, self.engines.wear[:, i] / item.limit, self._gone(item.key)
                    )
                    for finding in ("sound", "worn", "broken")
                },
            )
            for i, item in enumerate(self.engines.items)
            if item.kind != "chain"
        ]

    def _debris(self) -> list[Foreseen]:
        items, wear = self.engines.items, self.engines.wear
        shares = wear / np.array([item.limit for item in items])
        is_chain = np.array([item.kind == "chain" for item in items])
        gone = [self._gone(item.key) for item in items if item.kind == "guide"]
        chance: dict[str, Floats] = {}
        liner: Floats = shares[:, ~is_chain].max(axis=1, initial=0.0)
        if gone:
            liner = np.where(np.any(gone, axis=0), np.maximum(liner, GONE_SHARE), liner)
        chain = shares[:, is_chain].max(axis=1, initial=0.0)
        for plastic in ("none", "some", "much"):
            for metal in ("none", "some", "much"):
                chance[f"{plastic}/{metal}"] = debris_level(
                    "plastic", plastic, liner
                ) * debris_level("metal", metal, chain)
        return [self._of("debris", "", chance)]

    def _noises(self) -> list[Foreseen]:
        """Listening, cold and hot: where it is first heard."""
        return [self._noise(when) for when in ("cold_start", "hot_idle")]

    def _noise(self, when: str) -> Foreseen:
        book, engines, ears = self.book, self.engines, ears_of(self.book)
        sources: list[tuple[str, str, Floats]] = []
        for chain, slack in slackness(engines.items, engines.wear).items():
            sources.append(("slack", home_of_chain(book, chain), slack))
        for arm in book.arms.values():
            home = home_of_chain(book, arm.chain)
            for cause, kind in (("leak", SuspectKind.LEAK), ("stuck", SuspectKind.STUCK)):
                sources.append((cause, home, engines.has(kind, arm.tensioner).astype(float)))
        for key, guide in book.guides.items():
            home = home_of_chain(book, guide.chain)
            sources.append(("gone", home, self._gone(key).astype(float)))
        for key, phaser in book.phasers.items():
            there = engines.has(SuspectKind.LOCK_PIN, key).astype(float)
            sources.append(("lock_pin", home_of(book, [phaser.shaft]), there))
        oil, belt = engines.has(SuspectKind.OIL_LOW), engines.has(SuspectKind.ACCESSORY)
        sources.append(("oil_low", FOOT, oil.astype(float)))
        sources.append(("accessory", ELSEWHERE, belt.astype(float)))
        silent_before, chance = np.ones(len(engines)), dict[str, Floats]()
        for n, place in enumerate(ears.places):
            places = frozenset(ears.places[: n + 1])
            silent = np.ones(len(engines))
            for cause, home, there in sources:
                silent *= 1.0 - NOISE_OF[cause][when] * ears.share(home, places) * there
            chance[place] = silent_before - silent
            silent_before = silent
        return self._of("noise", when, {"silent": silent_before, **chance})

    def _oil(self) -> list[Foreseen]:
        least = self.book.limits.oil_kpa_hot_idle
        if least is None:
            return []
        low = self.engines.has(SuspectKind.OIL_LOW)
        under = cdf((1.0 - np.array(OIL_SHARE)[low.astype(int)]) / OIL_SD)
        return [self._of("oil", "", {"low": under, "ok": 1 - under})]

    def _codes(self) -> list[Foreseen]:
        """Which kind of code is set: of a sensor, of a phaser, of correlation, or none."""
        book, engines = self.book, self.engines
        quiet = {kind: np.ones(len(engines)) for kind in ("sensor", "phaser", "correlation")}
        for i, cam in enumerate(book.cams):
            far = cdf((np.abs(self._late[:, i]) - CORRELATION_DEG) / CORRELATION_SD_DEG)
            if correlation_code(book, cam):
                quiet["correlation"] *= 1 - FAR_SETS * far
            quiet["sensor"] *= 1 - SENSOR_SETS * engines.has(SuspectKind.SENSOR, cam)
        for p, key in enumerate(book.phasers):
            if phaser_codes_of(book, key):
                off = np.abs(engines.offset[:, p]) > 5.0
                for kind in (SuspectKind.SLOW, SuspectKind.FEED, SuspectKind.DRIFTS):
                    off = off | engines.has(kind, key)
                quiet["phaser"] *= 1 - PHASER_SETS * off
        left, chance = np.ones(len(engines)), dict[str, Floats]()
        for kind, silent in quiet.items():
            chance[kind] = left * (1 - silent)
            left = left * silent
        return [self._of("codes", "", chance | {"none": left})]

    def _sweeps(self) -> list[Foreseen]:
        found: list[Foreseen] = []
        for p, key in enumerate(self.book.phasers):
            off = np.abs(self.engines.offset[:, p]) > 3 * self.book.phasers[key].park_tolerance_deg
            wrong = {
                "not_parking": off,
                "slow": self.engines.has(SuspectKind.SLOW, key)
                | self.engines.has(SuspectKind.FEED, key),
                "drifts": self.engines.has(SuspectKind.DRIFTS, key),
                "hunts": self.engines.has(SuspectKind.HUNTS, key),
            }
            left, chance = np.ones(len(self.engines)), dict[str, Floats]()
            for code, there in wrong.items():
                shows = np.where(there, SEEN, FALSE)
                chance[code] = left * shows
                left = left * (1 - shows)
            found.append(self._of("sweep", key, chance | {"sound": left}))
        return found
