"""Closing a step at the bench as a technician does: one press where all is as it should be."""

from datetime import datetime, timedelta

from demo.walk import right_answer
from tests.browser.person import Person

from flaneur.core.plan.steps import Asked, AskedKind, PlanStep


def answer_step(person: Person, step: PlanStep, answers: list[str]) -> None:
    """Enter answers into the step's card, question by question."""
    for asked, answer in zip(step.asked, answers, strict=True):
        if asked.choices:
            person.chooses(asked.ask, words_of(asked, answer))
        else:
            person.types(asked.ask, answer)


def words_of(asked: Asked, code: str) -> str:
    return next(c.words for c in asked.choices if c.code == code)


def own_figures(step: PlanStep) -> list[Asked]:
    """What only a figure of one's own answers."""
    return [a for a, said in zip(step.asked, step.one_press, strict=True) if said is None]


def quick_words(step: PlanStep) -> str:
    """The press that says that all is as it should be."""
    rest = [a for a in step.asked if a not in own_figures(step)]
    if not rest:
        return "Record it"
    if all(a.kind is AskedKind.MARK for a in rest):
        return "Marks meet" if len(rest) > 1 else "Mark meets"
    if len(rest) > 1:
        return "All as it should be"
    if rest[0].kind is AskedKind.COUNT:
        return f"{rest[0].expected}: all of them"
    return words_of(rest[0], rest[0].right[0])


def press_right(person: Person, step: PlanStep) -> int:
    """Answer a step as it should be; how many presses and figures it took."""
    if any(a.stage for a in step.asked):
        return _tighten(person, step)
    took = 1
    if step.waiting:
        begun = datetime.now().astimezone() - timedelta(minutes=step.waiting + 1)
        person.types("Or it was begun today at", begun.strftime("%H:%M"))
        person.press("Begun then")
        took += 2
    if step.bursts:
        person.press("Crank now")
        person.press("Pressure shows")
        return took + 1
    for asked in own_figures(step):
        person.types(asked.ask, right_answer(asked))
        took += 1
    person.press(quick_words(step))
    return took


def _tighten(person: Person, step: PlanStep) -> int:
    """Every stage for all bolts at once; the last one records."""
    stages = [a for a in step.asked if a.stage]
    for number, asked in enumerate(stages, 1):
        counts = (
            a.expected or 1
            for a in step.asked
            if a.kind is AskedKind.COUNT and a.fastener == asked.fastener
        )
        many = next(counts, 1)
        person.press(f"All {many} " if many > 1 else "In, ")
        if number < len(stages):
            person.until(lambda _, n=number: person.text().count("\n✓ ") >= n)
    return len(stages)
