"""What an answer that is not right means."""

import pytest
from tests.core.test_engines import BOOKS

from flaneur.core.bench.answers import check_answer, check_step
from flaneur.core.bench.meaning import meanings, why_it_stays_open
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.counts import shifted_counts
from flaneur.core.drive.train import DriveTrain
from flaneur.core.plan.making import step_of
from flaneur.core.plan.steps import AskedKind, PlanStep


def answered(step: PlanStep, counts: list[int]) -> list[str]:
    rest = iter(counts)
    return [str(next(rest)) if a.kind is AskedKind.COUNT else "on_mark" for a in step.asked]


@pytest.mark.parametrize("teeth", [-2, -1, 1, 2])
def test_counts_name_the_tooth_that_gives_them(book: EngineBook, teeth: int) -> None:
    step = step_of(book, "fit:chain_b_part")
    for contact in ("chain_b/cam_b_in", "chain_b/cam_b_ex"):
        counts = list(shifted_counts(DriveTrain(book), contact, teeth).values())[:2]
        seen = check_step(step, answered(step, counts))
        said = " ".join(meanings(book, step, seen))
        assert book.sprockets[contact.split("/")[1]].name.lower() in said.lower()
        assert "count again" in why_it_stays_open(step, seen)


def test_counts_of_no_tooth_are_to_be_counted_again(book: EngineBook) -> None:
    step = step_of(book, "fit:chain_b_part")
    seen = check_step(step, answered(step, [46, 40]))
    assert meanings(book, step, seen)[0].startswith("No sprocket set one or two teeth off")


def test_a_stretch_bolt_turned_too_far_is_used_up(book: EngineBook) -> None:
    key = next(
        k for k, c in book.components.items() if any(book.fasteners[f].one_use for f in c.fasteners)
    )
    step = step_of(book, f"torque:{key}")
    far = [
        f"{a.stage.value + 3 * a.stage.tolerance:g}" if a.stage else str(a.expected)
        for a in step.asked
    ]
    seen = check_step(step, far)
    said = meanings(book, step, seen)
    assert any("used up: fit a new one" in line for line in said)
    assert why_it_stays_open(step, seen) == ""


def test_one_press_is_right_and_says_no_figure_of_ones_own() -> None:
    for book in BOOKS.values():
        refs = [*(f"op:{o}" for o in book.operations), *(f"fit:{c}" for c in book.components)]
        refs += [f"torque:{k}" for k, c in book.components.items() if c.fasteners]
        for step in (step_of(book, ref) for ref in refs):
            for asked, said in zip(step.asked, step.one_press, strict=True):
                is_count = asked.kind is AskedKind.COUNT and step.verb == "fit"
                assert (said is None) == (is_count or asked.kind is AskedKind.MEASURE)
                if said is not None:
                    assert check_answer(asked, said).ok, (step.ref, asked.ask, said)


def test_a_mark_that_misses_says_which_figure_tells() -> None:
    book = BOOKS["brindle-fennel"]
    step = step_of(book, "op:turn_open")
    for mark, told in (("dot_a", "one tooth is"), ("key_crank", "No chain moves it")):
        said = [
            "missed" if a.code == f"mark_{mark}" else str(a.as_it_should_be(is_laid=False))
            for a in step.asked
        ]
        [line] = meanings(book, step, check_step(step, said))
        assert line.startswith(book.marks[mark].name)
        assert told in line
