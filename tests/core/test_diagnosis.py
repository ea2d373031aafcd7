"""The verdict: against brute force, against known engines, and against missing facts."""

import math

import numpy as np
import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.lattice import lattice
from flaneur.core.diagnosis.response import response_of
from flaneur.core.diagnosis.verdict import Verdict, diagnose, suspect_name
from flaneur.core.diagnosis.wear import unknowns
from flaneur.core.errors import ReadingError
from flaneur.core.faults.model import Faults
from flaneur.core.readings.taken import (
    CamReading,
    PhaserState,
    PlungerReading,
    Readings,
    phaser_shift_deg,
)
from flaneur.core.readings.typed import typed_deviation_deg
from flaneur.simulation.placement import placed_state
from flaneur.simulation.synthesis import true_deviation_deg

PARKED = PhaserState(state="parked")


def readings_of(
    book: EngineBook, faults: Faults, state: PhaserState = PARKED, hours: float | None = 3000
) -> Readings:
    """A full set of exact readings of an engine with these faults."""
    cams = [
        CamReading(id=c, cam=c, deviation_deg=d, stderr_deg=0.05, phaser=state)
        for c, d in true_deviation_deg(book, faults).items()
    ]
    plungers = [
        PlungerReading(id=c, chain=c, plunger_mm=x, stderr_mm=0.2)
        for c, x in placed_state(book, faults).plunger_mm.items()
    ]
    return Readings(engine=book.name, hours=hours, oil="good", cams=cams, plungers=plungers)


def verdict_on(book: EngineBook, faults: Faults, **more: object) -> Verdict:
    readings = readings_of(book, faults, **more)  # type: ignore[arg-type]
    return diagnose(book, readings, with_evidence=False)


def probability(verdict: Verdict, key: str) -> float:
    every = (*verdict.suspects, *verdict.only_age)
    return next((s.probability for s in every if s.key == key or key[5:] in s.alike), 0.0)


def test_lattice_points_fill_the_cube_evenly() -> None:
    points = lattice(512, 9)
    assert points.shape == (512, 9)
    assert np.max(np.abs(points.mean(axis=0) - 0.5)) < 0.01
    assert points.min() > 0
    assert points.max() < 1


def test_sensitivities_come_from_the_books_loops(book: EngineBook) -> None:
    items = unknowns(book, 3000, "good")
    lines = response_of(book)
    columns = {item.key: i for i, item in enumerate(items)}
    a_ex = lines.matrix[book.cams.index("cam_a_ex")]
    b_in = lines.matrix[book.cams.index("cam_b_in")]
    assert a_ex[columns["chain_a"]] == pytest.approx(6.3, abs=0.2)
    assert a_ex[columns["chain_b"]] == 0
    assert b_in[columns["chain_b"]] == pytest.approx(6.3, abs=0.2)
    assert a_ex[columns["arm_a"]] == pytest.approx(0.0, abs=0.02)
    guide = book.guides["guide_a"]
    away = guide.model_copy(
        update={"centre_mm": (guide.centre_mm[0] + 0.87, guide.centre_mm[1] - 0.5)}
    )
    flatter = response_of(book.model_copy(update={"guides": {**book.guides, "guide_a": away}}))
    # A guide that bows the chain less says less of its wear.
    assert (
        flatter.matrix[book.cams.index("cam_a_ex"), columns["guide_a"]]
        < 0.98 * a_ex[columns["guide_a"]]
    )


@pytest.mark.parametrize(
    ("faults", "key"),
    [
        (Faults(elongation_pct={"chain_a": 0.85}), "wear:chain_a"),
        (Faults(elongation_pct={"chain_b": 0.85}), "wear:chain_b"),
        (Faults(elongation_pct={"primary": 0.9}), "wear:primary"),
        (Faults(jumped_teeth={"chain_b/cam_b_in": 1}), "jump:chain_b/cam_b_in"),
        (Faults(jumped_teeth={"chain_a/idler_a": -1}), "jump:chain_a/idler_a"),
        (Faults(phaser_offset_deg={"phaser_a": -15.0}), "phaser:phaser_a"),
        (Faults(tone_wheel_offset_deg={"wheel_a_ex": 9.0}), "tone:wheel_a_ex"),
        (Faults(tone_wheel_offset_deg={"wheel_crank": 7.0}), "tone:wheel_crank"),
    ],
)
def test_names_the_fault(book: EngineBook, faults: Faults, key: str) -> None:
    verdict = verdict_on(book, faults)
    assert verdict.suspects[0].key == key
    assert verdict.suspects[0].probability > 0.5


def test_a_sound_engine_is_let_be(book: EngineBook) -> None:
    verdict = verdict_on(
        book, Faults(elongation_pct={"primary": 0.1, "chain_a": 0.12, "chain_b": 0.1})
    )
    assert verdict.suspects[0].key == "sound"
    assert verdict.suspects[0].probability > 0.8
    assert all(w.judged == "within the limit" for w in verdict.wear)


def test_wear_is_held_by_its_interval(book: EngineBook) -> None:
    wear = {w.key: w for w in verdict_on(book, Faults(elongation_pct={"chain_a": 0.8})).wear}
    assert wear["chain_a"].low < 0.8 < wear["chain_a"].high + 0.06
    assert wear["chain_a"].judged == "over the limit"
    assert wear["chain_a"].limit == book.chains["chain_a"].limit_elongation_pct


def test_the_same_shift_at_crank_and_idler_is_one_suspect(book: EngineBook) -> None:
    leader = verdict_on(book, Faults(jumped_teeth={"primary/idler_in": 1})).suspects[0]
    assert {leader.part, *leader.alike} == {"primary/crank", "primary/idler_in"}
    assert leader.probability > 0.9
    assert leader.teeth == 1


def test_an_unknown_phaser_makes_one_cam_count_for_little(book: EngineBook) -> None:
    faults = Faults(phaser_offset_deg={"phaser_a": -15.0})
    known = verdict_on(book, faults)
    unknown = verdict_on(book, faults, state=PhaserState(state="unknown"))
    assert probability(known, "phaser:phaser_a") > 0.9
    assert probability(unknown, "phaser:phaser_a") < 0.2
    assert any("Phaser state unknown" in a for a in unknown.advice)


def test_no_reading_leaves_the_prior_and_says_so(book: EngineBook) -> None:
    verdict = diagnose(book, Readings(engine=book.name))
    assert "No readings yet" in verdict.headline
    assert all(s.probability == pytest.approx(s.prior, abs=0.02) for s in verdict.suspects)
    assert any("hours unknown" in a for a in verdict.advice)


def test_evidence_names_the_reading_that_speaks(book: EngineBook) -> None:
    verdict = diagnose(book, readings_of(book, Faults(jumped_teeth={"chain_b/cam_b_in": 1})))
    first = verdict.suspects[0].evidence[0]
    assert first.reading == "cam_b_in"
    assert first.log_factor > 3
    assert first.words.endswith("to 1 for")
    sound = next(s for s in verdict.suspects if s.key == "sound")
    assert any(e.log_factor < 0 and e.words.endswith("against") for e in sound.evidence)


def test_contradictory_readings_raise_none_of_these(book: EngineBook) -> None:
    cams = [
        CamReading(cam=cam, deviation_deg=d, stderr_deg=0.05, phaser=PARKED)
        for cam in ("cam_a_ex", "cam_b_ex")
        for d in (-6.0, 7.0, -3.0)
    ]
    verdict = diagnose(book, Readings(engine=book.name, hours=3000, cams=cams), with_evidence=False)
    assert verdict.suspects[0].key == "none"


def test_its_own_baseline_is_sharper_than_the_book(book: EngineBook) -> None:
    tone = {"wheel_a_in": 0.9, "wheel_a_ex": 0.8, "wheel_b_in": -0.6, "wheel_b_ex": 0.2}
    new, worn = (
        Faults(tone_wheel_offset_deg=tone),
        Faults(tone_wheel_offset_deg=tone, elongation_pct={"chain_b": 0.3}),
    )
    against_book = readings_of(book, worn)
    baseline = {c: d for c, d in true_deviation_deg(book, new).items()}
    own = diagnose(
        book, against_book.model_copy(update={"baseline_deg": baseline}), with_evidence=False
    )
    plain = diagnose(book, against_book, with_evidence=False)

    def interval(verdict: Verdict) -> tuple[float, float]:
        wear = next(w for w in verdict.wear if w.key == "chain_b")
        return wear.low, wear.high

    assert interval(own)[0] < 0.3 < interval(own)[1] + 0.02
    assert interval(own)[1] - interval(own)[0] < interval(plain)[1] - interval(plain)[0]
    assert own.judged_against == "the engine's own baseline"


def test_hours_and_oil_move_the_prior(book: EngineBook) -> None:
    young = next(i for i in unknowns(book, 500, "good") if i.key == "chain_a")
    old = next(i for i in unknowns(book, 6000, "poor") if i.key == "chain_a")
    unknown = next(i for i in unknowns(book, None, "unknown") if i.key == "chain_a")
    assert young.mean < unknown.mean < old.mean
    assert unknown.sd > next(i for i in unknowns(book, 4000, "good") if i.key == "chain_a").sd


@pytest.mark.parametrize(
    ("text", "of", "positive", "expected"),
    [
        ("2.5", "crank", "retard", 2.5),
        ("2.5°", "cam", "retard", 5.0),
        ("−2.5°", "crank", "advance", 2.5),
        ("4", "cam", "advance", -8.0),
        ("1,25 deg", "cam", "retard", 2.5),
    ],
)
def test_typed_readings_are_converted_to_crank_degrees_late(
    text: str, of: str, positive: str, expected: float
) -> None:
    assert typed_deviation_deg(text, of, positive) == expected  # type: ignore[arg-type]


@pytest.mark.parametrize("text", ["four", "12 mm", "400°"])
def test_typed_nonsense_is_refused(text: str) -> None:
    with pytest.raises(ReadingError):
        typed_deviation_deg(text, "crank", "retard")


def test_readings_of_another_engine_are_refused(book: EngineBook) -> None:
    with pytest.raises(ReadingError, match="another engine"):
        diagnose(book, Readings(engine="Brindle Fennel"))
    with pytest.raises(ReadingError, match="no such cam"):
        diagnose(
            book,
            Readings(
                engine=book.name, cams=[CamReading(cam="cam_9", deviation_deg=0, stderr_deg=1)]
            ),
        )
    with pytest.raises(ReadingError, match="no such chain"):
        diagnose(
            book,
            Readings(
                engine=book.name, plungers=[PlungerReading(chain="x", plunger_mm=1, stderr_mm=1)]
            ),
        )


def test_a_plunger_that_cannot_stand_there_is_refused(book: EngineBook) -> None:
    with pytest.raises(ReadingError, match="cannot stand there"):
        diagnose(
            book,
            Readings(
                engine=book.name,
                plungers=[PlungerReading(chain="primary", plunger_mm=400, stderr_mm=1)],
            ),
        )


def test_phaser_shift_spans_the_range_when_unknown(book: EngineBook) -> None:
    phaser = book.phasers["phaser_a"]
    assert phaser_shift_deg(phaser, PARKED)[0] == 0
    assert phaser_shift_deg(phaser, PhaserState(state="commanded", command_deg=20)) == (
        -20,
        phaser.steady_error_deg,
    )
    assert phaser_shift_deg(phaser, PhaserState()) == pytest.approx((-25.0, 50 / math.sqrt(12)))


def test_every_suspect_has_a_name_in_the_trades_terms(book: EngineBook) -> None:
    for suspect in verdict_on(book, Faults()).suspects:
        assert suspect.name == suspect_name(book, suspect.key)
        assert "_" not in suspect.name
