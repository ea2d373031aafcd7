"""What closed jobs teach: wear at hours, what was said against what was found, how readings err."""

from datetime import date
from typing import Any

import numpy as np
import pytest

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.methods import learned_errors
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.drive.train import DriveTrain
from flaneur.core.faults.model import Faults
from flaneur.core.readings.taken import (
    CamReading,
    DirectReading,
    LearnedErrors,
    Missed,
    PhaserState,
    PlungerReading,
    Readings,
    speaks_of_timing,
)
from flaneur.core.readings.tests import Replaced
from flaneur.core.stores.lists import Renewed, WearLine
from flaneur.core.stores.told_before import lessons_told, part_named
from flaneur.core.trend.ahead import ahead_of, ahead_words, cost_of_waiting, day_at
from flaneur.core.trend.calibration import calibration
from flaneur.core.trend.course import course_of, traced
from flaneur.core.trend.fleet import learned
from flaneur.core.trend.lessons import How, Lesson, Said, WearNote, lesson_of
from flaneur.core.trend.lives import Fleet, known_lives

WORN = Faults(
    elongation_pct={"primary": 0.2, "chain_a": 0.7, "chain_b": 0.2},
    liner_wear_mm={"guide_a": 0.8, "arm_a": 0.6},
)


def read(book: EngineBook, off_deg: float = 0.0, **more: Any) -> Readings:
    """Every cam and plunger of an engine worn so, each cam read ``off_deg`` too late."""
    state = DriveTrain(book).state(WORN)
    return Readings(
        engine=book.name,
        hours=4000,
        oil="good",
        cams=[
            CamReading(
                cam=cam,
                deviation_deg=state.deviation_deg[cam] + off_deg,
                stderr_deg=0.1,
                phaser=PhaserState(state="parked"),
            )
            for cam in book.cams
        ],
        plungers=[
            PlungerReading(chain=c, plunger_mm=mm, stderr_mm=0.2)
            for c, mm in state.plunger_mm.items()
            if speaks_of_timing(book, c)
        ],
        **more,
    )


OFF = [
    DirectReading(part=part, value=value, stderr=error)
    for part, value, error in (
        *(("chain_a", 0.7, 0.02), ("primary", 0.2, 0.02), ("chain_b", 0.2, 0.02)),
        *(("guide_a", 0.8, 0.05), ("arm_a", 0.6, 0.05), ("guide_p", 0.0, 0.05)),
        *(("arm_p", 0.0, 0.05), ("guide_b", 0.0, 0.05), ("arm_b", 0.0, 0.05)),
    )
]


def test_a_closed_job_says_how_worn_parts_were_and_what_was_said_of_them(book: EngineBook) -> None:
    found = lesson_of(book, read(book, direct=OFF[:1]), ["chain_a", "phaser_a"])
    notes = {note.part: note for note in found.wear}
    assert (notes["chain_a"].how, notes["chain_a"].value) == (How.MEASURED, 0.7)
    other = notes["chain_b"]
    assert other.how is How.READ
    assert abs(other.value - 0.2) < 2.5 * other.stderr
    (said,) = found.said
    assert (said.part, said.was_over) == ("chain_a", True)
    assert said.chance > 0.5
    assert said.low < said.measured < said.high
    assert found.renewed == ["chain_a"], "a phaser's life is not followed"


def test_readings_without_the_part_off_teach_wear_alone(book: EngineBook) -> None:
    found = lesson_of(book, read(book))
    assert (found.said, found.missed) == ([], [])
    assert {note.how for note in found.wear} == {How.READ}
    told = Readings(engine=book.name, hours=4000)
    assert lesson_of(book, told) == Lesson(hours=4000)


@pytest.mark.parametrize(("off_deg", "least", "most"), [(0.0, 0.5, 1.1), (1.6, 1.3, 10.0)])
def test_readings_that_miss_measured_parts_are_believed_less(
    book: EngineBook, off_deg: float, least: float, most: float
) -> None:
    lessons = [lesson_of(book, read(book, off_deg, direct=OFF)) for _ in range(3)]
    errors = {e.method: e for e in calibration(lessons * 4).errors}
    assert errors["cam"].readings == 12 * len(book.cams)
    assert least < errors["cam"].times < most
    assert errors["plunger"].times < 1.2


def test_a_misread_figure_among_many_moves_little() -> None:
    rng = np.random.default_rng(3)
    right = [Missed(method="cam", by=float(x), own=0.04, rest=0.0) for x in rng.normal(0, 0.2, 60)]
    (plain,) = learned_errors(right)
    (with_one,) = learned_errors([*right, Missed(method="cam", by=9.0, own=0.04, rest=0.0)])
    assert 0.8 < plain.times < 1.2
    assert with_one.times < 1.15 * plain.times
    doubled = [m.model_copy(update={"by": 2 * m.by}) for m in right]
    (twice,) = learned_errors(doubled)
    assert 1.6 < twice.times < 2.2
    assert "2 readings" not in twice.words
    assert "60 readings held" in twice.words
    assert learned_errors([]) == []


def test_a_verdict_takes_readings_as_they_err_in_the_shop(book: EngineBook) -> None:
    def width(times: float) -> float:
        errors = [LearnedErrors(method=m, times=times, readings=40) for m in ("cam", "plunger")]
        found = diagnose(book, read(book).model_copy(update={"errors": errors}), False)
        wear = next(w for w in found.wear if w.key == "chain_a")
        return wear.high - wear.low

    assert width(3.0) > 1.1 * width(1.0)


def test_what_was_said_is_held_against_what_was_found() -> None:
    def said(chance: float, was_over: bool) -> Said:
        low, high = 0.3, 0.6
        measured = 0.55 if was_over else 0.2
        return Said(
            part="chain_a", chance=chance, was_over=was_over, low=low, high=high, measured=measured
        )

    lesson = Lesson(said=[said(0.8, k < 4) for k in range(5)] + [said(0.02, False)] * 5)
    found = calibration([lesson, Lesson()])
    bins = {(b.low, b.high): b for b in found.bins}
    assert bins[0.7, 0.9].words == "said 80\u00a0%, found 4 of 5"
    assert (bins[0.0, 0.1].parts, bins[0.0, 0.1].over) == (5, 0)
    assert bins[0.9, 1.0].words == "nothing measured"
    assert (found.jobs, found.parts, found.within) == (1, 10, 4)
    assert found.words[0].startswith("4 of 10 measured parts lay where")
    assert "too few" in calibration([]).words[0]
    assert (found.headline, [b.is_off for b in found.bins]) == (
        "What was said is what was found",
        [False] * 5,
    )
    wrong = calibration([Lesson(said=[said(0.02, True)] * 6)])
    assert wrong.headline.startswith("Verdicts here were surer")
    assert wrong.bins[0].is_off


def note(part: str, value: float) -> WearNote:
    return WearNote(part=part, value=value, stderr=0.03, how=How.MEASURED)


def test_a_renewed_part_starts_anew(book: EngineBook) -> None:
    lessons = [
        Lesson(hours=2000, wear=[note("chain_a", 0.3)]),
        Lesson(hours=None, wear=[note("chain_a", 9.0)]),
        Lesson(hours=4000, wear=[note("chain_a", 0.6)], renewed=["chain_a"]),
        Lesson(hours=3000, wear=[note("chain_a", 9.0)]),  # a typing error: hours only rise
        Lesson(hours=5000, wear=[note("chain_a", 0.12)]),
    ]
    lives = traced(book, "PIL-9 main", lessons, 5500)
    mine = [t for t in lives if t.life.part == "chain_a"]
    assert [(t.since, t.life.hours, t.life.is_over) for t in mine] == [
        (0, 4000, True),
        (4000, 1500, False),
    ]
    assert [[r.hours for r in t.life.readings] for t in mine] == [[2000, 4000], [1000]]
    assert len([t for t in lives if not t.life.is_over]) == len(known_lives(book, []))
    course = course_of(book, lives, learned(known_lives(book, []), [t.life for t in lives]), FLEET)
    chain = next(p for p in course.parts if p.trend.part == "chain_a")
    assert (chain.since, course.hours) == (4000, 5500)
    assert [r.hours for r in chain.read] == [5000]
    assert (chain.at_limit_hours.middle or 0) > 5500
    middles = [p.middle for p in chain.points]
    assert middles[0] == 0.0
    assert middles == sorted(middles), "wear only grows"
    assert 1 - course.risk == pytest.approx(np.prod([1 - p.trend.risk for p in course.parts]))


FLEET = Fleet(lives=[], hours_a_day=4)


def test_a_part_put_in_elsewhere_starts_anew_at_its_hour(book: EngineBook) -> None:
    told = Replaced(kind="replaced", part="chain_a", hours_ago=1000)
    later = lesson_of(book, read(book).model_copy(update={"tests": [told]}))
    assert later.put_in == {"chain_a": 3000}
    earlier = Lesson(hours=2000, wear=[note("chain_a", 0.4)])
    mine = [t for t in traced(book, "E", [earlier, later], 4000) if t.life.part == "chain_a"]
    assert [(t.since, t.life.hours, t.life.is_over) for t in mine] == [
        (0, 3000, True),
        (3000, 1000, False),
    ]
    gainsaid = later.model_copy(update={"put_in": {"chain_a": 1500}})
    mine = [t for t in traced(book, "E", [earlier, gainsaid], 4000) if t.life.part == "chain_a"]
    assert [t.since for t in mine] == [0], "it was read there later than that"


def test_an_engine_in_short_says_which_part_and_when(book: EngineBook) -> None:
    def short(wear: float) -> Any:
        lives = traced(book, "E", [Lesson(hours=4000, wear=[note("chain_b", wear)])], 4200)
        spreads = learned(known_lives(book, []), [t.life for t in lives])
        return ahead_of(course_of(book, lives, spreads, FLEET), 4.0, True)

    worn, fair = short(0.9), short(0.42)
    assert worn.part == "chain_b"
    assert "over its limit already" in ahead_words(worn)
    assert "first, at its limit in about" in ahead_words(fair)
    assert cost_of_waiting(worn, 500, 9000) > cost_of_waiting(fair, 500, 9000) > 0
    assert fair.look_at_h > 4200
    today = date(2026, 1, 1)
    assert day_at(4600, 4200, 4.0, today) == date(2026, 4, 11)
    assert day_at(100, 4200, 4.0, today) == today
    assert day_at(None, 4200, 4.0, today) is None
    assert day_at(1e6, 4200, 4.0, today) is None


def test_wear_told_from_before_is_taken_by_the_parts_names(book: EngineBook) -> None:
    chain = book.chains["chain_a"].name
    lines = [
        WearLine(engine="E", hours=3000, part=chain.upper(), measured=0.4, renewed=Renewed.YES),
        WearLine(engine="E", hours=1000, part="chain_a", measured=0.1, plus_minus=0.02),
        WearLine(engine="E", hours=3000, part="guide_a", renewed=Renewed.YES),
        WearLine(engine="E", hours=3000, part="water pump", measured=1.0),
    ]
    first, second = lessons_told(book, lines)
    assert (first.hours, first.wear[0].stderr) == (1000, 0.02)
    assert second.renewed == ["chain_a", "guide_a"]
    assert [n.part for n in second.wear] == ["chain_a"]
    assert part_named(book, "water pump") is None
    with pytest.raises(ValueError, match="nothing was measured"):
        WearLine(engine="E", hours=1, part="chain_a")
