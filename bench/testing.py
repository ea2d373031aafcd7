"""What the advice on the next test is worth: engines tested as it says, all tests done, and as many
tests in a fixed and in a random order; each time the action then advised, at its true cost.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from zlib import crc32

import numpy as np

from bench.engines import Drawn, Told, books, draw, foreseen, looked
from bench.figure import Figure, at_most, for_information
from flaneur.core.decision.actions import Action, Workshop
from flaneur.core.decision.advice import ENGINES as WEIGHED
from flaneur.core.decision.advice import SEED, advise, is_noticed
from flaneur.core.decision.catalogue import Need
from flaneur.core.decision.choosing import CAPTURE, is_shut, weigh_all
from flaneur.core.decision.costs import Reckoning
from flaneur.core.decision.foresight import MARK_SD_DEG, Foreseen
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.ensemble import ensemble_of
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.observe import LASH_SD_DEG
from flaneur.core.readings.taken import Readings

ENGINES, MOST_TESTS = 200, 40
LEFT_OUT = ("codes", "links", "oil")  # told at intake; with the drive open; of what no action mends
READ_SD_DEG = 0.5


def is_offered(test: Foreseen) -> bool:
    """Whether somebody does it with the drive shut."""
    return test.kind not in LEFT_OUT and Need.FRONT not in test.cost.needs


@dataclass
class Bench:
    """One engine being tested: what was read, what it took. A test shows the same whenever it is
    done: its errors follow from the engine's ``seed`` and the test.
    """

    drawn: Drawn
    seed: int
    told: Told
    rows: dict[str, list[Told]] = field(
        default_factory=lambda: {"cams": [], "plungers": [], "tests": []}
    )
    minutes: float = 0.0
    number: int = 0

    @property
    def readings(self) -> Readings:
        """All that was read."""
        return Readings.model_validate(self.told | self.rows)

    def offered(self) -> list[Foreseen]:
        """Tests not done yet that a person does with the drive shut; one capture reads all cams."""
        every = [t for t in foreseen(self.drawn, self.readings) if is_offered(t)]
        captures = [t for t in every if t.kind == CAPTURE]
        return [t for t in every if t not in captures[1:]]

    def do(self, test: Foreseen) -> None:
        """Do a test, and write down what it shows."""
        drawn, rng = self.drawn, self._luck(test)
        self.minutes += test.cost.minutes
        self.number += 1
        if test.kind == CAPTURE:
            self.rows["cams"] += [drawn.cam(cam, rng) for cam in drawn.book.cams]
        elif test.kind == "plunger":
            self.rows["plungers"] += (
                [drawn.plunger(test.part, rng)] if drawn.has_plunger(test.part) else []
            )
        elif test.kind in ("lash", "mark_miss"):
            self.rows["tests"].append(self._figure(test, rng))
        else:
            self.rows["tests"].append(self._looked(test, rng))

    def _luck(self, test: Foreseen) -> np.random.Generator:
        return np.random.default_rng(
            (self.seed, crc32("/".join(_key(test.kind, test.part)).encode()))
        )

    def _figure(self, test: Foreseen, rng: np.random.Generator) -> Told:
        book, truth = self.drawn.book, self.drawn.truth
        if test.kind == "lash":
            rows = truth.response.of(truth.wear)[0]
            true, sd = float(rows[truth.response.lines.lash(test.part)]), LASH_SD_DEG
            name = "lash_deg"
        else:
            wheel = book.marks[test.part].wheel
            shaft = (book.sprockets.get(wheel) or book.gears[wheel]).shaft
            true = self.drawn.late_deg[shaft] - float(truth.wheel[0, book.cams.index(shaft)])
            sd, name = MARK_SD_DEG, "miss_deg"
        value = true + rng.normal(0, float(np.hypot(READ_SD_DEG, sd)))
        slack = {"slack": "taken_up"} if test.kind == "mark_miss" else {}
        value = value if test.kind == "mark_miss" else max(0.0, value)
        return {
            "kind": test.kind,
            "part": test.part,
            name: value,
            "stderr_deg": READ_SD_DEG,
        } | slack

    def _looked(self, test: Foreseen, rng: np.random.Generator) -> Told:
        if test.kind != "tool_fit":
            return looked(test, rng)
        check = self.drawn.book.check_of(test.part)
        assert check is not None
        chance = test.chance[:, 0] / test.chance[:, 0].sum()
        code = test.outcomes[int(rng.choice(len(chance), p=chance))].code
        said = {"fit": code, "slack": "taken_up", "crank_deg": check.crank_deg}
        return {"kind": "tool_fit", "part": test.part} | said


def decided(readings: Readings, drawn: Drawn) -> float:
    """What the action that is best by these readings costs this engine."""
    book, rates, school = drawn.book, Rates(), School()
    solved = solve_readings(book, readings)
    engines = ensemble_of(solved, WEIGHED, np.random.default_rng(SEED))
    noticed = is_noticed(readings)
    weighed = weigh_all(
        Workshop(book, rates, school), Reckoning(engines, rates, school, drawn.hours, noticed)
    )
    mean = weighed.cost.mean(axis=1)
    may = [i for i, a in enumerate(weighed.actions) if readings.is_measured or is_shut(a)]
    best: Action = weighed.actions[min(may, key=lambda i: mean[i])]
    # At its true cost a fault is noticed, whoever listened.
    truly = Reckoning(drawn.truth, rates, school, drawn.hours, True).weigh(weighed.actions)
    return float(truly.cost[weighed.actions.index(best), 0])


def _advised(bench: Bench) -> None:
    """Tests as they are advised, until it is time to decide."""
    for _ in range(MOST_TESTS):
        offered = {_key(t.kind, t.part): t for t in bench.offered()}
        solved = solve_readings(bench.drawn.book, bench.readings)
        advice = advise(solved, can_be_done=is_offered)
        worth = [_key(t.kind, t.part) for t in advice.next_tests if t.is_worth_it]
        chosen = next((offered[key] for key in worth if key in offered), None)
        if chosen is None:
            return
        bench.do(chosen)


def _key(kind: str, part: str) -> tuple[str, str]:
    """Which test it is: a capture reads all cams, whichever decides."""
    return kind, "" if kind == CAPTURE else part


def _in_order(bench: Bench, number: int, key: Callable[[Foreseen], float]) -> None:
    """So many tests, in an order."""
    for _ in range(number):
        offered = bench.offered()
        if not offered:
            return
        bench.do(min(offered, key=key))


def run(is_tiny: bool = False, times: int = 1) -> Iterator[Figure]:
    """Costs of four ways to test."""
    every_book, cost, minutes = books(), dict[str, list[float]](), dict[str, list[float]]()
    for seed in range(1 if is_tiny else ENGINES * times):
        drawn = draw(every_book[seed % len(every_book)], np.random.default_rng(80_000 + seed))
        told = drawn.told() | {"tests": []}
        shuffle = np.random.default_rng(seed)

        def fresh(seed: int = seed, drawn: Drawn = drawn, told: Told = told) -> Bench:
            return Bench(drawn, 90_000 + seed, told)

        as_advised, every, fixed, random = fresh(), fresh(), fresh(), fresh()
        _advised(as_advised)
        while offered := every.offered():
            every.do(offered[0])
        _in_order(fixed, as_advised.number, lambda t: t.cost.minutes)
        _in_order(random, as_advised.number, lambda _, r=shuffle: float(r.random()))
        ways = {"as advised": as_advised, "all": every, "cheap first": fixed, "random": random}
        for name, bench in ways.items():
            cost.setdefault(name, []).append(decided(bench.readings, drawn))
            minutes.setdefault(name, []).append(bench.minutes)
    all_cost, all_minutes = np.mean(cost["all"]), np.mean(minutes["all"])
    for name in cost:
        against = float(np.mean(cost[name]) / all_cost)
        yield for_information("diagnosis", f"tests {name}: cost against all tests'", against)
        share = float(np.mean(minutes[name]) / all_minutes)
        yield for_information("diagnosis", f"tests {name}: minutes against all tests'", share)
    advised = float(np.mean(cost["as advised"]) / all_cost)
    yield at_most("diagnosis", "tests as advised: cost against all tests'", advised, 1.02)
    share = float(np.mean(minutes["as advised"]) / all_minutes)
    yield at_most("diagnosis", "tests as advised: minutes against all tests'", share, 0.5)
