"""A plan: parts, tools, time and steps for a scope of renewal."""

import math
from collections import Counter
from collections.abc import Iterable
from enum import StrEnum
from functools import lru_cache

from pydantic import BaseModel, ConfigDict, computed_field

from flaneur.core.book.marks import TeethOff
from flaneur.core.book.references import task_observations
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Observe, Stage, Task
from flaneur.core.choices import Choice
from flaneur.core.errors import PlanError
from flaneur.core.fasteners.program import size_words, stage_words
from flaneur.core.gauss import Z90
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.access import closed_set, renewed_set
from flaneur.core.plan.cautions import Cautions
from flaneur.core.plan.ground import makers_word
from flaneur.core.plan.order import steps_of, work_order
from flaneur.core.plan.position import StepState
from flaneur.core.plan.reasons import Reasons
from flaneur.core.plan.walk import knows_positions, walker
from flaneur.core.plan.wording import state_words
from flaneur.core.wording import within


class PlanModel(BaseModel):
    """What a plan is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class AskedKind(StrEnum):
    """What an answer is: a number counted, a mark read, a choice, a length, or a stage applied."""

    COUNT = "count"
    MARK = "mark"
    WORD = "word"
    MEASURE = "measure"
    TORQUE = "torque"
    ANGLE = "angle"
    BACK_OFF = "back_off"


NOT_MEASURED = Choice("not_measured", "not measured")


class Asked(PlanModel):
    """One thing to observe in a step. ``kind`` torque, angle and back_off carry the book's stage;
    ``right`` are codes of those ``choices`` that close the step; ``hint`` says how to answer;
    ``escape`` is what may be chosen where a figure is asked and there is none.
    """

    kind: AskedKind
    ask: str
    hint: str = ""
    choices: list[Choice] = []
    right: list[str] = []
    code: str | None = None
    escape: Choice | None = None
    expected: int | None = None
    low: float | None = None
    high: float | None = None
    unit: str | None = None
    contact: str | None = None
    pins: int = 0
    stage: Stage | None = None
    fastener: str | None = None


class PlanStep(PlanModel):
    """One step at the bench. ``ref`` is op:, remove:, fit: or torque: and a key of the book.

    ``template`` it is written on and ``why`` it is in this plan; ``state`` is the engine after it,
    None where the book does not say what its steps do. ``waiting`` minutes pass by themselves.
    """

    ref: str
    template: str | None = None
    why: str = ""
    state: StepState | None = None
    waiting: float = 0.0
    supplies: list[str] = []
    phase: str
    title: str
    text: str
    looks_right: str
    remedy: str
    minutes: float
    spread_minutes: float
    two_person: bool
    tools: list[str]
    cautions: list[str]
    asked: list[Asked]
    note: str = ""

    @computed_field
    @property
    def verb(self) -> Verb:
        """What the step does."""
        return StepRef.of(self.ref).verb

    @computed_field
    @property
    def about(self) -> str | None:
        """The component it takes off, fits or tightens; None for an operation."""
        verb, key = StepRef.of(self.ref)
        return None if verb is Verb.OPERATION else key


class Part(PlanModel):
    """A part to have ready. ``why``: chosen, one-use, or renewed with."""

    name: str
    count: int
    price: float
    why: str


class Plan(PlanModel):
    """Steps in order, with what comes off (``access``), parts, tools, working time and its spread
    in minutes. ``kept``: what of the scope goes on again as it came off, set right at its marks.
    """

    engine: str
    scope: list[str]
    kept: list[str] = []
    access: list[str]
    renewed: list[str]
    steps: list[PlanStep]
    parts: list[Part]
    tools: list[str]
    minutes: float
    spread_minutes: float
    waiting_minutes: float = 0.0
    two_person_steps: int
    supplies: list[str] = []
    price: float
    notice: str

    @computed_field
    @property
    def low_minutes(self) -> float:
        """Lower end of the 90 % interval of the working time."""
        return max(0.0, self.minutes - Z90 * self.spread_minutes)

    @computed_field
    @property
    def high_minutes(self) -> float:
        """Upper end of the 90 % interval of the working time."""
        return self.minutes + Z90 * self.spread_minutes


def make_plan(book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()) -> Plan:
    """Plan a renewal; what is ``kept`` of the scope is set right and not renewed. Raises PlanError
    when the book gives no lawful order or does not know a part.
    """
    wanted = [k for k in book.components if k in set(scope)] + [
        k for k in scope if k not in book.components
    ]
    access = closed_set(book, wanted)
    again = [k for k in wanted if k in set(kept)]
    refs = work_order(book, wanted, again)
    renewed = renewed_set(book, wanted, again)
    reasons = Reasons(book, wanted, access, renewed)
    states = _states(book, refs)
    cautions = Cautions(book)
    steps: list[PlanStep] = []
    for ref in refs:
        state = states.get(ref)
        said = {"why": reasons.of(ref), "state": state, "cautions": cautions.at(ref, state)}
        steps.append(_step(book, ref).model_copy(update=said))
    parts = _parts(book, wanted, renewed, access)
    return Plan(
        engine=book.name,
        scope=wanted,
        kept=again,
        access=access,
        renewed=renewed,
        steps=steps,
        parts=parts,
        tools=sorted({t for s in steps for t in s.tools}),
        minutes=sum(s.minutes for s in steps),
        spread_minutes=math.sqrt(sum(s.spread_minutes**2 for s in steps)),
        waiting_minutes=sum(s.waiting for s in steps),
        two_person_steps=sum(s.two_person for s in steps),
        supplies=_supplies(steps),
        price=sum(p.price * p.count for p in parts),
        notice=book.notice,
    )


def effort(
    book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()
) -> tuple[float, float, float]:
    """Working and waiting minutes of a scope, and the price of its parts, without putting its steps
    in order. Raises PlanError for a part the book does not have.
    """
    wanted, again = list(scope), list(kept)
    steps = [_step(book, ref) for ref in steps_of(book, wanted, again)]
    parts = _parts(book, wanted, renewed_set(book, wanted, again), closed_set(book, wanted))
    price = sum(p.price * p.count for p in parts)
    return sum(s.minutes for s in steps), sum(s.waiting for s in steps), price


def _supplies(steps: list[PlanStep]) -> list[str]:
    """What the steps use up, each with its number where it is more than one."""
    used = Counter(supply for step in steps for supply in step.supplies)
    return [f"{n} × {within(name)}" if n > 1 else name for name, n in used.items()]


def _states(book: EngineBook, refs: list[str]) -> dict[str, StepState]:
    """The engine after each step. Raises PlanError for a step in which a valve can meet a piston,
    unless the book says that the maker's order does so.
    """
    if not knows_positions(book):
        return {}
    walk = walker(book)
    states: dict[str, StepState] = {}
    for walked in walk.walk(refs):
        bends = [c for c in walked.concerns if c.bends]
        if bends and not makers_word(book, walked.ref):
            raise PlanError(
                f"In “{_step(book, walked.ref).title}” a valve can meet a piston.",
                read=bends[0].found,
                expected=bends[0].expected,
                advice=f"{bends[0].way_out} This plan is not offered: mend the engine book.",
            )
        state = walk.state(walked.after)
        states[walked.ref] = state.model_copy(update={"words": state_words(book, state)})
    return states


def _parts(book: EngineBook, scope: list[str], renewed: list[str], access: list[str]) -> list[Part]:
    parts = [
        Part(
            name=book.components[c].name,
            count=1,
            price=book.components[c].price,
            why="chosen"
            if c in scope
            else "one-use"
            if book.components[c].one_use
            else "renewed with it",
        )
        for c in renewed
    ]
    for component in access:
        for key in book.components[component].fasteners:
            fastener = book.fasteners[key]
            if fastener.one_use:
                name = f"{fastener.name} ({book.components[component].name})"
                parts.append(
                    Part(name=name, count=fastener.count, price=fastener.price, why="one-use")
                )
    return parts


def _asked(observe: Observe) -> Asked:
    coded = {words: _choice(observe, words) for words in [*observe.choices, *observe.right]}
    return Asked(
        **observe.model_dump(exclude={"choices", "codes", "right", "kind"}),
        kind=AskedKind(observe.kind),
        hint=_HINTS.get(observe.kind, ""),
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


_HINTS = {
    "count": "count them and write the number",
    "torque": "in Nm, or with its unit: 18 lbf ft",
    "angle": "such as 90°",
    "back_off": "such as 90°",
}


@lru_cache(maxsize=2048)
def _step(book: EngineBook, ref: str) -> PlanStep:
    verb, key = StepRef.of(ref)
    if verb is Verb.OPERATION:
        operation = book.operations[key]
        return _task_step(ref, operation.phase, operation.name, operation)
    component = book.components[key]
    if verb is Verb.TORQUE:
        return _torque_step(book, ref, key)
    title = f"{component.name} {'off' if verb is Verb.REMOVE else 'on'}"
    return _task_step(
        ref,
        "remove" if verb is Verb.REMOVE else "fit",
        title,
        component.remove if verb is Verb.REMOVE else component.fit,
    )


def _task_step(ref: str, phase: str, title: str, task: Task) -> PlanStep:
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
        supplies=task.supplies,
        asked=[_asked(o) for o in task_observations(task)],
    )


def _torque_step(book: EngineBook, ref: str, key: str) -> PlanStep:
    component = book.components[key]
    asked: list[Asked] = []
    tools: list[str] = []
    notes: list[str] = []
    words: list[str] = []
    minutes = 0.0
    for name in component.fasteners:
        fastener = book.fasteners[name]
        tools += [fastener.tool, "torque wrench"]
        if any(s.kind != "torque" for s in fastener.stages):
            tools.append("angle gauge")
        notes += [f"Which hole: {fastener.holes}."] if fastener.holes else []
        notes += [fastener.note] if fastener.note else []
        minutes += 1.0 + 0.5 * fastener.count * len(fastener.stages)
        new = "new " if fastener.one_use else ""
        words.append(
            f"{fastener.count} × {new}{within(fastener.name)}{size_words(fastener)}, "
            f"{fastener.pattern}: " + ", then ".join(map(stage_words, fastener.stages))
        )
        asked.append(
            Asked(
                kind=AskedKind.COUNT,
                ask=f"{fastener.name} counted in",
                hint=_HINTS["count"],
                expected=fastener.count,
                fastener=name,
            )
        )
        asked += [
            Asked(
                kind=AskedKind(s.kind),
                ask=f"Stage {i}: {stage_words(s)}",
                hint=_HINTS[s.kind],
                stage=s,
                escape=NOT_MEASURED,
                fastener=name,
            )
            for i, s in enumerate(fastener.stages, 1)
        ]
    return PlanStep(
        ref=ref,
        template="torque",
        phase="fit",
        title=f"Torque: {component.name}",
        text=". ".join(words) + ".",
        looks_right="Every stage reached in its pattern; marks have not moved while tightening.",
        remedy="Over or under: slacken, look at the bolt and its thread, start its program again "
        "from the first stage.",
        minutes=minutes,
        spread_minutes=max(1.0, 0.3 * minutes),
        two_person=False,
        tools=tools,
        cautions=[],
        asked=asked,
        note=" ".join(notes),
    )
