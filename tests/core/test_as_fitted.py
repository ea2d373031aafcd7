"""Programs as a fastener is really fitted, and what is held against closing."""

from datetime import UTC, datetime

import pytest
from tests.core.test_engines import BOOKS

from flaneur.core.bench.within import Event, EventKind, chosen, fits, stop_gap
from flaneur.core.errors import StepError
from flaneur.core.plan.making import step_of
from flaneur.core.plan.plan import make_plan
from flaneur.core.plan.torquing import as_fitted, step_as_fitted

NOW = datetime(2026, 11, 28, 7, 0, tzinfo=UTC)
TANSY = BOOKS["ostrey-tansy"]
REF = "torque:phaser_a_part"


def event(kind: EventKind, item: str, number: int = 0) -> Event:
    return Event(REF, 0, kind, item, number, "Ivo", NOW)


def test_a_variant_changes_the_program_and_nothing_else_of_the_step() -> None:
    plan = make_plan(TANSY, ["phaser_a_part"], is_quick=True)
    own = next(s for s in plan.steps if s.ref == REF)
    stud = step_as_fitted(TANSY, own, {"phaser_bolt": "stud"})
    changed = {"text", "asked", "note", "tools", "fitted"}
    for name in type(own).model_fields:
        if name not in changed:
            assert getattr(stud, name) == getattr(own, name), name
    assert [f.is_chosen for f in stud.fitted] == [False, True]
    assert "new " not in stud.text, "a stud is not the bolt that is bought new"
    assert step_as_fitted(TANSY, stud, {}) == own


def test_a_used_bolt_is_not_new_and_has_its_own_surface() -> None:
    own = TANSY.fasteners["phaser_bolt"]
    used = as_fitted(own, "used")
    assert (own.one_use, used.one_use) == (True, False)
    assert (own.surface, used.surface) == ("oiled", "threadlocker")
    assert own.note is not None
    assert used.note is not None
    assert used.note.startswith(own.note), "what holds for the bolt holds for a used one"
    assert as_fitted(own, "glued") is own


def test_the_last_that_was_said_is_what_is_fitted() -> None:
    said = [event(EventKind.FITTED, "phaser_bolt stud"), event(EventKind.BOLT, "1", 1)]
    assert chosen(said) == {"phaser_bolt": "stud"}
    assert chosen([]) == {}


def test_only_what_the_book_knows_is_fitted_and_before_the_first_bolt() -> None:
    step = step_of(TANSY, REF)
    fits(step, [], "phaser_bolt used")
    with pytest.raises(StepError) as refused:
        fits(step, [], "phaser_bolt glue")
    assert refused.value.expected == "phaser_bolt used, phaser_bolt stud"
    place = next(str(i) for i, a in enumerate(step.asked) if a.stage is not None)
    with pytest.raises(StepError, match="Its program has begun"):
        fits(step, [event(EventKind.BOLT, place, 1)], "phaser_bolt stud")


def test_a_stop_gap_holds_its_step() -> None:
    step = step_of(TANSY, REF)
    assert stop_gap(step) is None
    assert stop_gap(step_as_fitted(TANSY, step, {"phaser_bolt": "stud"})) is None
    held = stop_gap(step_as_fitted(TANSY, step, {"phaser_bolt": "used"}))
    assert held is not None
    assert held.code == "step_held"


@pytest.mark.parametrize("name", BOOKS)
def test_marks_are_looked_at_after_each_stage_of_what_drives_a_cam(name: str) -> None:
    book = BOOKS[name]
    for key, component in book.components.items():
        if not component.fasteners:
            continue
        asked = step_of(book, f"torque:{key}").asked
        looks = [i for i, a in enumerate(asked) if a.code == "alignment"]
        stages = [i for i, a in enumerate(asked) if a.stage is not None]
        if component.part in book.phasers:
            assert looks == [i + 1 for i in stages]
        elif component.part is None:
            assert looks == [], "a cover drags nothing along"
