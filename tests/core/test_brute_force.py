"""The verdict against going through everything, on an engine of one chain."""

import numpy as np
import pytest
from tests.support.brute import Shown, brute_shares, shown
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.statistics import shares
from flaneur.core.readings.taken import Readings
from flaneur.formats.books import load_book

SETS = 40


@pytest.fixture(scope="module")
def small() -> tuple[EngineBook, Shown]:
    book = load_book(ROOT / "engines" / "dunmarrow-thistle.yaml")
    return book, shown(book)


def _some(book: EngineBook, rng: np.random.Generator) -> Readings:
    """Readings and tests at random, of an engine somewhere between new and worn through."""
    (cam,), (chain,) = book.cams, list(book.chains)
    x = float(rng.uniform(0, 1.6)) * book.chains[chain].limit_elongation_pct
    late, lash = 4.0 * x, 3.5 + 9.0 * x

    def one_of(*words: str) -> str:
        return str(rng.choice(words))

    every: list[dict[str, object]] = [
        {
            "kind": "lash",
            "part": cam,
            "lash_deg": max(0.0, lash + rng.normal(0, 1)),
            "stderr_deg": 0.5,
        },
        {
            "kind": "tool_fit",
            "part": cam,
            "fit": one_of("slides_on", "starts", "does_not_start"),
            "slack": one_of("taken_up", "unknown"),
        },
        {"kind": "debris", "metal": one_of("none", "some", "much")},
        {
            "kind": "noise",
            "when": "hot_idle",
            "where": one_of("front_bottom", "elsewhere"),
            "belt_off": one_of("stays", "goes", "not_tried"),
        },
        {"kind": "noise", "when": "cold_start", "seconds": 0},
        {
            "kind": "complaint",
            "rattle": one_of("cold_start", "hot_idle", "none"),
            "stood_h": float(rng.uniform(0, 14)),
            "no_start": bool(rng.random() < 0.2),
        },
        {
            "kind": "oil",
            "pressure_kpa": float(rng.uniform(40, 300)),
            "oil_c": 92,
            "level": one_of("ok", "low"),
        },
        {
            "kind": "codes",
            "codes": [c for c in ("P0016", "P0340", "P0300") if rng.random() < 0.4],
        },
    ]
    tests = [t for t in every if rng.random() < 0.45]
    cams = [
        {"cam": cam, "deviation_deg": late + float(rng.normal(0, 2)), "stderr_deg": 0.4}
        for _ in range(int(rng.integers(0, 3)))
    ]
    direct = [{"part": chain, "value": x, "stderr": 0.1}] if rng.random() < 0.2 else []
    return Readings.model_validate(
        {
            "engine": book.name,
            "hours": float(rng.uniform(200, 6000)),
            "oil": str(rng.choice(["good", "poor", "unknown"])),
            "cams": cams,
            "direct": direct,
            "tests": tests,
        }
    )


@pytest.mark.parametrize("seed", range(SETS))
def test_every_suspect_is_within_a_hundredth(small: tuple[EngineBook, Shown], seed: int) -> None:
    book, seen = small
    readings = _some(book, np.random.default_rng(seed))
    want = brute_shares(book, readings, seen)
    found = shares(solve_readings(book, readings, points=512))
    for kind in ("wear", "jump", "oil_low", "accessory", "none", "sound"):
        share = sum(p for key, p in found.items() if key.split(":")[0] == kind)
        assert share == pytest.approx(want.get(kind, 0.0), abs=0.01), kind
