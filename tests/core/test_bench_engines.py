"""The engines that verdicts are judged by: what is read of them is what is wrong with them."""

import numpy as np
import pytest
from bench.engines import Drawn, books, draw, read
from bench.strained import STRAINS
from bench.testing import Bench

from flaneur.core.diagnosis.abrupt import Abrupt
from flaneur.simulation.synthesis import true_deviation_deg

ENGINES = [(book.name, seed) for seed, book in enumerate([*books(), *books()])]


@pytest.fixture(scope="module")
def drawn() -> list[Drawn]:
    every = books()
    return [
        draw(every[seed % len(every)], np.random.default_rng(700 + seed))
        for seed in range(len(ENGINES))
    ]


def _is_plain(fault: Abrupt) -> bool:
    return bool(fault.teeth) or fault.blind != ""


def test_wear_and_teeth_read_as_pins_are_placed(drawn: list[Drawn]) -> None:
    """Every pin laid along its chain, against the loops that the engines are read by."""
    for one in drawn:
        if all(_is_plain(f) for f in one.there_at_once):
            true = true_deviation_deg(one.book, one.faults)
            wheel = dict(zip(one.book.cams, one.truth.wheel[0], strict=True))
            for cam, deg in true.items():
                shown = one.late_deg[cam] - float(wheel[cam])
                assert shown == pytest.approx(deg, abs=0.02), (one.book.name, cam)


def test_readings_scatter_about_what_is_so_as_they_say(drawn: list[Drawn]) -> None:
    far = []
    for seed, one in enumerate(drawn * 12):
        rng = np.random.default_rng(seed)
        for cam in one.book.cams:
            told = one.cam(cam, rng)
            phaser = one.book.phaser_of(cam)
            park = one.book.phasers[phaser].park_tolerance_deg / 2 if phaser else 0.0
            sd = np.hypot(one.errors * np.hypot(float(str(told["stderr_deg"])), 0.05), park)
            far.append((float(str(told["deviation_deg"])) - one.late_deg[cam]) / sd)
    assert abs(np.mean(far)) < 0.15
    assert np.std(far) == pytest.approx(1.0, abs=0.1)


def test_the_same_seed_is_the_same_engine(drawn: list[Drawn]) -> None:
    again = draw(drawn[3].book, np.random.default_rng(703))
    assert (again.wear, again.there) == (drawn[3].wear, drawn[3].there)
    readings = [read(one, np.random.default_rng(9)) for one in (drawn[3], again)]
    assert readings[0] == readings[1]


@pytest.mark.parametrize("name", STRAINS)
def test_a_strain_is_not_what_the_model_has(drawn: list[Drawn], name: str) -> None:
    changed = 0
    for one in drawn:
        strained = STRAINS[name](one, np.random.default_rng(5))
        assert strained.there == one.there
        changed += strained is not one
        for item in strained.truth.items:
            assert strained.wear[item.key] >= 0
    assert changed > len(drawn) / 2


def test_a_bench_runs_out_of_tests(drawn: list[Drawn]) -> None:
    one = next(d for d in drawn if d.book.name == "Quillon Sorrel")
    bench = Bench(one, 1, one.told() | {"tests": []})
    done: list[tuple[str, str]] = []
    while offered := bench.offered():
        done.append((offered[0].kind, offered[0].part))
        bench.do(offered[0])
        assert bench.number < 60
    assert len(set(done)) == len(done), "no test is done twice"
    assert [kind for kind, _ in done].count("capture") == 1
    assert len(bench.readings.cams) == len(one.book.cams)
    assert bench.minutes > 60
