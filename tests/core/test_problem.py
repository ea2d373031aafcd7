"""Sets of faults and what they do to priors and noise, set by set."""

import numpy as np
import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.abrupt import PHASER_SHARE, TONE_SLIP_SD_DEG
from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.evidence import but_for_a_little
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.observe import WIDE
from flaneur.core.diagnosis.problem import Problem, with_one_more
from flaneur.core.diagnosis.wear import WORN_OUT, spread_of
from flaneur.core.keys import SuspectKind
from flaneur.core.readings.taken import Readings

PARKED = {"state": "parked"}


@pytest.fixture(scope="module")
def solved(book: EngineBook) -> Solved:
    late = {"cam_a_in": 6.0, "cam_a_ex": 5.0, "cam_b_in": 2.0, "cam_b_ex": 1.8}
    cams = [
        {"cam": c, "deviation_deg": deg, "stderr_deg": 0.2, "phaser": PARKED}
        for c, deg in late.items()
    ]
    plungers = [{"chain": "chain_a", "plunger_mm": 14.0, "stderr_mm": 0.3}]
    told = {"engine": book.name, "hours": 3000, "oil": "good", "cams": cams, "plungers": plungers}
    return solve_readings(book, Readings.model_validate(told))


def names(problem: Problem, c: int) -> tuple[str, ...]:
    return tuple(sorted(f"{f.key} {f.teeth}" for f in problem.chosen(c)))


def test_each_set_is_there_once_in_its_scene_and_may_hold(solved: Solved) -> None:
    problem = solved.problem
    seen = set()
    for c in range(len(problem.members)):
        if c == problem.none:
            assert not problem.chosen(c)
            continue
        chosen = problem.chosen(c)
        assert (int(problem.scene[c]), names(problem, c)) not in seen
        seen.add((int(problem.scene[c]), names(problem, c)))
        assert len({f.key for f in chosen}) == len(chosen), "one fault of a suspect at a time"
        worn = [f.key.part for f in chosen if f.key.kind in (SuspectKind.WEAR, SuspectKind.GONE)]
        assert len(set(worn)) == len(worn), "a guide that is gone does not wear"
    singles = {key for scene, key in seen if scene == 3 and len(key) == 1}
    assert len(singles) == len(problem.faults)


def test_groups_are_what_each_set_of_faults_makes_of_an_ordinary_engine(
    book: EngineBook, solved: Solved
) -> None:
    problem, groups = solved.problem, solved.problem.groups
    seen, items = problem.seen, problem.items
    rng = np.random.default_rng(8)
    for c in map(int, rng.choice(len(problem.members), 150, replace=False)):
        if c == problem.none:
            continue
        scene, g = SCENES[problem.scene[c]], int(problem.group_of[c])
        mean = np.array([*(i.mean * scene.wear for i in items), *(0.0 for _ in book.phasers)])
        sd = np.array(
            [*(i.sd * spread_of(scene.wear) for i in items), *(0.0 for _ in book.phasers)]
        )
        sd[: len(items)][~solved.is_read] = 0.0
        noise = seen.measured * scene.errors**2 + seen.tolerance
        for fault in problem.chosen(c):
            if fault.wear_index is not None:
                limit = items[fault.wear_index].limit
                mean[fault.wear_index], sd[fault.wear_index] = (k * limit for k in WORN_OUT)
            if fault.gone_index is not None:
                mean[fault.gone_index] = sd[fault.gone_index] = 0.0
            if fault.phaser:
                at = len(items) + list(book.phasers).index(fault.phaser)
                mean[at], sd[at] = (k * book.phasers[fault.phaser].range_deg for k in PHASER_SHARE)
            for i, one in enumerate(seen.rows):
                if fault.blind and (one.kind, one.about) == ("plunger", fault.blind):
                    noise[i, i] += WIDE**2
                for k, other in enumerate(seen.rows):
                    if fault.wheel and all(
                        r.wheel and fault.wheel in ("crank", r.wheel) for r in (one, other)
                    ):
                        noise[i, k] += TONE_SLIP_SD_DEG**2
        assert groups.mean[g] == pytest.approx(mean)
        assert groups.sd[g] == pytest.approx(sd)
        assert groups.exact[g] == pytest.approx(noise)
        assert groups.noise[g] - groups.near[g] == pytest.approx(0.9 * seen.misfit)
        odds = sum(f.log_odds for f in problem.chosen(c)) + np.log(scene.odds)
        assert problem.log_prior[c] == pytest.approx(odds)


def test_one_more_joins_every_set_it_may(solved: Solved) -> None:
    problem = solved.problem
    number = (problem.members >= 0).sum(axis=1)
    pair = int(np.flatnonzero((number == 2) & (problem.scene == 0))[7])
    single = int(np.flatnonzero((number == 1) & (problem.scene == 2))[3])
    more = with_one_more(problem, np.array([pair, single]))
    old = len(problem.members)
    assert np.array_equal(more.members[:old], problem.members)
    assert np.array_equal(more.groups.mean[: len(problem.groups)], problem.groups.mean)
    assert more.none == problem.none
    for start, scene in ((pair, 0), (single, 2)):
        new = [c for c in range(old, len(more.members)) if more.scene[c] == scene]
        assert all(set(names(problem, start)) < set(names(more, c)) for c in new)
        assert all(len(names(more, c)) == len(names(problem, start)) + 1 for c in new)
        held = {f.key for f in problem.chosen(start)}
        wears = (SuspectKind.WEAR, SuspectKind.GONE)
        worn = {f.key.part for f in problem.chosen(start) if f.key.kind in wears}
        may = [
            f
            for f in problem.faults
            if f.key not in held and not (f.key.kind in wears and f.key.part in worn)
        ]
        assert len(new) == len(may)
        assert len({names(more, c) for c in new}) == len(new)


def test_nothing_joins_where_nothing_is_asked(solved: Solved) -> None:
    same = with_one_more(solved.problem, np.array([], dtype=np.int64))
    assert np.array_equal(same.members, solved.problem.members)
    assert len(same.groups) == len(solved.problem.groups)


def test_what_gives_all_but_a_little_is_not_sunk_by_one_row(solved: Solved) -> None:
    """However far one row is off, a set of faults falls no lower than a row can take it."""
    problem = solved.problem
    nearly = but_for_a_little(problem)
    rows = len(problem.seen.rows)
    assert nearly.shape == (len(problem.members),)
    least = nearly - problem.log_prior
    sd = np.sqrt(np.linalg.eigvalsh(problem.groups.noise).max())
    floor = -0.5 * rows * 25 - rows * np.log(sd * np.sqrt(2 * np.pi)) - 60
    assert (least > floor).all()
