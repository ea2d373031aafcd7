"""Faults together, plungers that were misread, and what a suspect would make the cams read."""

from dataclasses import replace

import numpy as np
import pytest
from tests.core.test_diagnosis import probability, readings_of

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.actions import ActionKind, Workshop
from flaneur.core.decision.costs import Reckoning
from flaneur.core.decision.rates import Rates, School
from flaneur.core.diagnosis.ensemble import ensemble_of
from flaneur.core.diagnosis.found import Suspect
from flaneur.core.diagnosis.model import solve_readings
from flaneur.core.diagnosis.verdict import Verdict, diagnose
from flaneur.core.diagnosis.wear import unknowns
from flaneur.core.faults.model import Faults
from flaneur.core.keys import SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings
from flaneur.core.readings.tests import Compress

JUMPED = "jump:chain_b/cam_b_in"


def suspect(verdict: Verdict, key: str) -> Suspect:
    return next(s for s in verdict.suspects if s.key == key)


def test_three_faults_at_once_are_all_named(book: EngineBook) -> None:
    """No two of them give what was read: each pair leaves a cam 20 degrees off."""
    worn = next(i.limit for i in unknowns(book, 600, "good") if i.key == "chain_a") * 1.7
    chain, away = {"chain_a": worn}, {"phaser_a": -18.0}
    several = {
        ("wear:chain_a", JUMPED, "phaser:phaser_a"): Faults(
            jumped_teeth={"chain_b/cam_b_in": 1}, phaser_offset_deg=away, elongation_pct=chain
        ),
        ("wear:chain_a", "phaser:phaser_a", "phaser:phaser_b"): Faults(
            phaser_offset_deg=away | {"phaser_b": -12.0}, elongation_pct=chain
        ),
    }
    for keys, faults in several.items():
        verdict = diagnose(book, readings_of(book, faults, hours=600), with_evidence=False)
        assert verdict.none_of_these.weight < 0.05
        assert verdict.left_out.bound < 0.01
        assert 0.001 < verdict.left_out.more < 0.1
        for key in keys:
            assert probability(verdict, key) > 0.8, key


def _odd_plunger(book: EngineBook, feel: str = "") -> Verdict:
    """A sound engine but for one plunger 12 mm further out than anything else read says."""
    readings = readings_of(book, Faults())
    plungers = [
        p.model_copy(update={"plunger_mm": p.plunger_mm + 12.0}) if p.chain == "chain_a" else p
        for p in readings.plungers
    ]
    felt = [Compress(kind="compress", part="chain_a", feel=feel)] if feel else []
    changed: Readings = readings.model_copy(update={"plungers": plungers, "tests": felt})
    return diagnose(book, changed, with_evidence=False)


def test_a_plunger_that_does_not_fit_names_no_tensioner_stuck(book: EngineBook) -> None:
    plain = _odd_plunger(book)
    stuck, misread = "stuck:tensioner_a", "misread:tensioner_a"
    assert 0.2 < probability(plain, stuck) < 0.6
    assert 0.3 < probability(plain, misread) < 0.8
    assert "misread" in suspect(plain, misread).name
    seized, firm = _odd_plunger(book, "seized"), _odd_plunger(book, "firm")
    assert probability(seized, stuck) > 0.9
    assert probability(firm, stuck) < 0.5 * probability(plain, stuck)
    assert probability(firm, misread) > probability(plain, misread)


def test_a_suspect_is_held_against_every_cam(book: EngineBook) -> None:
    verdict = diagnose(book, readings_of(book, Faults(jumped_teeth={"chain_b/cam_b_in": 1})))
    jumped = suspect(verdict, JUMPED)
    assert len(jumped.expected) == len(book.cams)
    for cam in jumped.expected:
        assert cam.is_alone
        assert not cam.is_off
        assert cam.low_deg <= cam.deg <= cam.high_deg
        assert cam.deg == pytest.approx(cam.read_deg, abs=1.0)
    late = next(c for c in jumped.expected if c.reading == "cam_b_in")
    assert late.read_deg > 15
    assert late.words.startswith(f"read {late.read_deg:.1f}° late, would be ")
    assert not diagnose(book, readings_of(book, Faults()), False).suspects[0].expected


def test_what_cannot_explain_a_cam_is_marked_off(book: EngineBook) -> None:
    """Two chains a little worn: a guide of bank B worn over its limit, and nothing else, would put
    bank B's intake cam later than it was read, and not move bank A.
    """
    slight = Faults(elongation_pct={"chain_a": 0.5, "chain_b": 0.6})
    guide = suspect(diagnose(book, readings_of(book, slight, hours=4000)), "wear:guide_b")
    assert all(cam.is_alone for cam in guide.expected)
    assert [cam.reading for cam in guide.expected if cam.is_off] == ["cam_b_in"]


def test_what_cannot_be_alone_is_shown_with_what_goes_with_it(book: EngineBook) -> None:
    """One chain worn moves its own bank alone; the other bank was read late as well."""
    worn = Faults(elongation_pct={"chain_a": 0.95, "chain_b": 0.95})
    chain = suspect(diagnose(book, readings_of(book, worn, hours=4000)), "wear:chain_a")
    assert len(chain.expected) == 4
    assert not any(cam.is_alone or cam.is_off for cam in chain.expected)


def test_what_is_wrong_outside_is_mended_beside_the_drive(book: EngineBook) -> None:
    """An engine with a worn guide and a noisy accessory comes back to have both put right, not for
    another engine.
    """
    solved = solve_readings(book, readings_of(book, Faults(liner_wear_mm={"guide_a": 2.5})))
    engines = ensemble_of(solved, 200, np.random.default_rng(3))
    quiet = {key: np.zeros(200, dtype=bool) for key in engines.hidden}
    noisy = quiet | {SuspectKey(SuspectKind.ACCESSORY): np.ones(200, dtype=bool)}
    known = [*(w := Workshop(book, Rates(), School())).shut(), *w.units(), *w.large()]
    leave = next(i for i, a in enumerate(known) if a.kind is ActionKind.LEAVE)
    elsewhere = next(a for a in known if a.kind is ActionKind.ELSEWHERE)
    costs = []
    for hidden in (quiet, noisy):
        reckoning = Reckoning(replace(engines, hidden=hidden), Rates(), School(), 3000)
        costs.append(float(np.median(reckoning.weigh(known).cost[leave])))
    assert 0 <= costs[1] - costs[0] <= reckoning.outlay(elsewhere) + 1
