"""Engines drawn from a verdict, and the draws they come from: far into the tail, at few points,
with what nothing read bears on.
"""

import numpy as np
import pytest
from scipy.stats import norm, truncnorm
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.effects import SCENES
from flaneur.core.diagnosis.ensemble import Ensemble, ensemble_of
from flaneur.core.diagnosis.model import Solved, solve_readings
from flaneur.core.diagnosis.statistics import shares
from flaneur.core.drive.train import DriveTrain
from flaneur.core.gauss import above, log_cdf
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings
from flaneur.formats.books import load_book

NUMBER = 3000


def asked(book: EngineBook, **told: object) -> Solved:
    every = {"engine": book.name, "hours": 2500, "oil": "good", **told}
    return solve_readings(book, Readings.model_validate(every))


def drawn(solved: Solved, seed: int = 5) -> Ensemble:
    return ensemble_of(solved, NUMBER, np.random.default_rng(seed))


def cam(key: str, deg: float, sd: float = 0.1) -> dict[str, object]:
    return {"cam": key, "deviation_deg": deg, "stderr_deg": sd, "phaser": {"state": "parked"}}


def test_the_far_tail_is_drawn_as_it_is() -> None:
    u = np.linspace(0.01, 0.99, 199)
    for least in (-3.0, 0.0, 2.0, 7.9):
        exact = truncnorm(least, np.inf).ppf(u)
        assert above(np.full_like(u, least), u)[0] == pytest.approx(exact, abs=1e-6)
    for least in (8.1, 30.0, 400.0):
        far, _ = above(np.full_like(u, least), u)
        assert (far >= least).all()
        assert (np.diff(far) > 0).all()
        mean = least + 1 / least  # of what lies beyond, to second order
        assert far.mean() == pytest.approx(mean, abs=0.1 / least)
    assert np.isinf(above(np.array([-np.inf]), np.array([0.5]))[0]).sum() == 0
    assert log_cdf(np.array([-300.0]))[0] == pytest.approx(-45006.6, abs=0.5)
    assert log_cdf(np.array([1.0]))[0] == pytest.approx(norm.logcdf(1.0))


def test_a_fault_that_asks_for_impossible_wear_does_not_carry_a_verdict() -> None:
    """A tooth early, made good by a chain at four times its limit, fits any reading."""
    skarne = load_book(ROOT / "engines" / "skarne-burdock.yaml")
    solved = asked(
        skarne,
        hours=4481,
        cams=[cam("cam_f", 1.785, 0.15), cam("cam_r", 3.630, 0.19)],
        plungers=[
            {"chain": "chain_f", "plunger_mm": 13.667, "stderr_mm": 0.3},
            {"chain": "chain_r", "plunger_mm": 20.646, "stderr_mm": 0.3},
        ],
        tests=[
            {"kind": "compress", "part": "chain_r", "feel": "springy"},
            {"kind": "endoscope", "part": "guide_f", "finding": "sound"},
            {"kind": "endoscope", "part": "arm_r", "finding": "sound"},
        ],
    )
    now = shares(solved)
    assert max(p for key, p in now.items() if key.startswith(("jump", "tone"))) < 0.05
    assert now["wear:chain_f"] < 0.1
    assert 1 / np.sum(solved.draws.weight**2) > 500


def test_draws_weigh_one_and_leave_little_out(book: EngineBook) -> None:
    solved = asked(book, cams=[cam(c, 1.5) for c in book.cams])
    draws = solved.draws
    assert draws.weight.sum() == pytest.approx(1.0)
    assert draws.left_out < 1e-3
    assert (draws.x[..., : len(solved.items)] >= 0).all()
    again = asked(book, cams=[cam(c, 1.5) for c in book.cams])
    assert np.array_equal(again.draws.weight, draws.weight), "the same question, the same answer"


def test_more_points_move_a_share_little(book: EngineBook) -> None:
    told = {
        "engine": book.name,
        "hours": 3000,
        "cams": [cam("cam_a_in", 6.0, 0.2), cam("cam_a_ex", 5.2, 0.2), cam("cam_b_in", 2.0, 0.2)],
        "plungers": [{"chain": "chain_a", "plunger_mm": 14.0, "stderr_mm": 0.3}],
    }
    readings = Readings.model_validate(told)
    few, many = shares(solve_readings(book, readings)), shares(solve_readings(book, readings, 900))
    assert max(abs(few[key] - many[key]) for key in many) < 0.02


def test_engines_give_back_what_was_read(book: EngineBook) -> None:
    read = {"cam_a_in": 6.2, "cam_b_in": 2.0}
    solved = asked(book, hours=4000, cams=[cam(key, deg) for key, deg in read.items()])
    engines = drawn(solved)
    real = ~engines.is_none
    late = engines.bare_late(engines.wear) + engines.moved(engines.offset, engines.abrupt)
    for key, deg in read.items():
        shown = (late + engines.wheel)[real, book.cams.index(key)]
        # Errors of reading may be several times what is said, in one engine of sixteen.
        assert np.median(shown) == pytest.approx(deg, abs=0.3)
        assert np.quantile(np.abs(shown - deg), 0.9) < 1.0


def test_scenes_are_drawn_as_often_as_they_weigh(book: EngineBook) -> None:
    solved = asked(book, cams=[cam(c, 1.0) for c in book.cams])
    weight = solved.draws.weight.sum(axis=1)
    scene = solved.problem.scene[solved.draws.config]
    assert sum(weight[scene == k].sum() for k in range(len(SCENES))) == pytest.approx(1.0)
    none = float(weight[solved.draws.config == solved.problem.none].sum())
    assert float(drawn(solved).is_none.mean()) == pytest.approx(none, abs=0.02)


def test_what_nothing_bears_on_is_there_as_often_as_before(book: EngineBook) -> None:
    plunger = {"chain": "chain_a", "plunger_mm": 9.0, "stderr_mm": 0.3}
    solved = asked(book, plungers=[plunger])
    engines, now = drawn(solved), shares(solved)
    read = {fault.key for fault in solved.problem.faults}
    unread = [f.key for f in solved.faults if f.key not in read and f.wear_index is None]
    assert SuspectKey(SuspectKind.PHASER, "phaser_b") in unread
    for key in dict.fromkeys(unread):
        assert float(engines.has(*key).mean()) == pytest.approx(now[str(key)], abs=0.012)
    off = engines.has(SuspectKind.PHASER, "phaser_b")
    assert (engines.offset[off, list(book.phasers).index("phaser_b")] != 0).all()
    slipped = engines.has(SuspectKind.TONE, "wheel_b_in")
    spread = engines.wheel[:, book.cams.index("cam_b_in")]
    assert spread[slipped].std() > 5 * spread[~slipped].std()


def test_fewer_engines_are_evenly_chosen(book: EngineBook) -> None:
    engines = drawn(asked(book, cams=[cam("cam_a_in", 5.0)]))
    few = engines.thinned(400)
    assert len(few) == 400
    assert len(engines.thinned(10 * NUMBER)) == NUMBER
    assert few.wear.mean(axis=0) == pytest.approx(engines.wear.mean(axis=0), rel=0.2)
    assert set(few.hidden) == set(engines.hidden)


def test_a_noise_binds_hidden_faults_together(book: EngineBook) -> None:
    noise = {"kind": "noise", "when": "cold_start", "where": "front_top_a", "seconds": 3}
    engines = drawn(asked(book, cams=[cam(c, 0.4) for c in book.cams], tests=[noise]))
    leak = engines.has(SuspectKind.LEAK, "tensioner_a")
    pin = engines.has(SuspectKind.LOCK_PIN, "phaser_a")
    assert pin[~leak].mean() > 2 * pin[leak].mean(), "each explains the noise away for the other"


@pytest.mark.parametrize("name", sorted(p.stem for p in (ROOT / "engines").glob("*.yaml")))
def test_a_tooth_is_the_same_at_either_end_of_its_chain(name: str) -> None:
    book = load_book(ROOT / "engines" / f"{name}.yaml")
    train = DriveTrain(book)
    for key in book.cams:
        teeth = train.teeth_of(key)
        assert teeth
        for contact in train.contacts():
            deg = train.jump_deg(contact)[key]
            if deg:
                assert deg == pytest.approx(teeth[contact.partition("/")[0]])
