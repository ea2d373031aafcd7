"""Steps as the book has them, from its tasks, before they stand in a plan."""

from collections.abc import Iterator
from functools import lru_cache

from flaneur.core.book.marks import TeethOff
from flaneur.core.book.references import task_observations
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Observe, Task
from flaneur.core.book.valves import ValveGroup
from flaneur.core.choices import Choice
from flaneur.core.fasteners.bolts import bolt_maps
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.steps import HINTS, Asked, AskedKind, PlanStep, TrayRow
from flaneur.core.plan.torquing import torque_step


@lru_cache(maxsize=2048)
def step_of(book: EngineBook, ref: str) -> PlanStep:
    """A step as the book has it, before it stands in a plan."""
    verb, key = StepRef.of(ref)
    if verb is Verb.OPERATION:
        operation = book.operations[key]
        return _task_step(book, ref, operation.phase, operation.name, operation)
    component = book.components[key]
    if verb is Verb.TORQUE:
        return torque_step(book, ref)
    title = f"{component.name} {'off' if verb is Verb.REMOVE else 'on'}"
    step = _task_step(
        book,
        ref,
        "remove" if verb is Verb.REMOVE else "fit",
        title,
        component.remove if verb is Verb.REMOVE else component.fit,
    )
    return step.model_copy(update={"bolts": bolt_maps(book, key), "part": component.part})


def _task_step(book: EngineBook, ref: str, phase: str, title: str, task: Task) -> PlanStep:
    return PlanStep(
        ref=ref,
        template=task.template,
        phase=phase,
        title=title,
        text=task.text,
        looks_right=task.looks_right,
        remedy=task.remedy,
        minutes=task.minutes,
        spread_minutes=task.spread_minutes,
        two_person=task.two_person,
        tools=task.tools,
        cautions=[],
        waiting=task.waiting_minutes,
        bursts=task.bursts,
        supplies=task.supplies,
        tray=_tray(book, task),
        asked=list(_asked_of(book, task)),
    )


def _tray(book: EngineBook, task: Task) -> list[TrayRow]:
    """Followers in the order they lie in the head, cylinder by cylinder from the front."""
    effects = task.effects
    groups = book.clearance.valves if book.clearance else {}
    rows = list[TrayRow]()
    for key, cylinders in (effects.followers_out or effects.followers_in).items():
        group = groups[key]
        each = range(1, group.valves_each + 1)
        slots = [
            f"{cylinder}{'.' + str(n) if group.valves_each > 1 else ''}"
            for cylinder in sorted(cylinders)
            for n in each
        ]
        rows.append(TrayRow(name=group.name, slots=slots))
    return rows


def _asked_of(book: EngineBook, task: Task) -> Iterator[Asked]:
    """All that a task asks; what is asked valve by valve as one question each."""
    for observe in task_observations(task):
        each = _valves(book) if observe.per_valve else []
        yield from each or [_asked(observe)]


def _valves(book: EngineBook) -> list[Asked]:
    """The clearance of every valve, by cylinder, where the book says what each may be."""
    groups = book.clearance.valves.values() if book.clearance else ()
    rows = [
        (cylinder, group.kind == "exhaust", number, group)
        for group in groups
        if group.clearance_mm
        for cylinder in group.cylinders
        for number in range(1, group.valves_each + 1)
    ]
    rows.sort(key=lambda row: row[:3])
    return [_valve(cylinder, number, group) for cylinder, _, number, group in rows]


def _valve(cylinder: int, number: int, group: ValveGroup) -> Asked:
    low, high = group.clearance_mm or (None, None)
    which = f", valve {number}" if group.valves_each > 1 else ""
    hint, each = f"{low:g} to {high:g} mm, cold", group.graduation_mm
    if each and low is not None and high is not None:
        hint += f"; turned back, {low / each:.2g} to {high / each:.2g} graduations"
    return Asked(
        kind=AskedKind.MEASURE,
        ask=f"Cylinder {cylinder} {group.kind}{which}",
        hint=hint,
        graduation_mm=each,
        code="clearance",
        unit="mm",
        low=low,
        high=high,
    )


def _asked(observe: Observe) -> Asked:
    coded = {words: _choice(observe, words) for words in [*observe.choices, *observe.right]}
    return Asked(
        **observe.model_dump(exclude={"choices", "codes", "right", "kind", "per_valve"}),
        kind=AskedKind(observe.kind),
        hint=HINTS.get(AskedKind(observe.kind), ""),
        choices=[coded[w] for w in observe.choices],
        right=[coded[w].code for w in observe.right],
    )


def _choice(observe: Observe, words: str) -> Choice:
    """A choice of the book: a mark's by the teeth it means, any other by its own code, or where it
    has none by its place in the list.
    """
    teeth = TeethOff.said(words) if observe.kind == "mark" else None
    if teeth is not None:
        return Choice(str(teeth), words)
    place = observe.choices.index(words) if words in observe.choices else len(observe.choices)
    if place < len(observe.codes):
        return Choice(observe.codes[place], words)
    return Choice(f"c{place + 1}", words)
