"""One step at the bench as a plan has it: what is done, asked and counted."""

from enum import StrEnum

from pydantic import BaseModel, ConfigDict, Field, computed_field

from flaneur.core.book.tasks import Bursts, Stage
from flaneur.core.choices import Choice
from flaneur.core.fasteners.bolts import BoltMap
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.position import StepState
from flaneur.core.plan.tour import Tour


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


TORQUE_WRENCH = "torque wrench"
NOT_MEASURED = Choice("not_measured", "not measured")
ALIGNMENT = "alignment"
HINTS = {
    AskedKind.COUNT: "count them and write the number",
    AskedKind.TORQUE: "in Nm, or with its unit: 18 lbf ft",
    AskedKind.ANGLE: "such as 90°",
    AskedKind.BACK_OFF: "such as 90°",
}


class Asked(PlanModel):
    """One thing to observe in a step. ``kind`` torque, angle and back_off carry the book's stage;
    ``right`` are codes of those ``choices`` that close the step; ``hint`` says how to answer;
    ``escape`` is what may be chosen where a figure is asked and there is none; ``graduation_mm``
    what one graduation of an adjuster is, where the figure may be told by these.
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
    # Written as it always was where there is none: seals of older jobs hold.
    graduation_mm: float | None = Field(default=None, exclude_if=lambda mm: mm is None)

    def as_it_should_be(self, is_laid: bool) -> str | None:
        """The answer where all is as it should be; None where nobody can say it without looking.
        ``is_laid``: a part is fitted, so that its counts show how it lies.
        """
        if self.kind is AskedKind.MEASURE or (self.kind is AskedKind.COUNT and is_laid):
            return None
        if self.stage is not None:
            return f"{self.stage.value:g} {'Nm' if self.stage.kind == 'torque' else 'deg'}"
        return self.right[0] if self.right else str(self.expected or 0)


class Fitted(PlanModel):
    """What may be fitted in place of a fastener's own, with a program of its own. ``is_stop_gap``:
    it is refused, unless a lead leaves it so for a written reason.
    """

    fastener: str
    code: str
    name: str
    is_stop_gap: bool
    is_chosen: bool = False


class TrayRow(PlanModel):
    """One row of an order tray, front end first: what lies in it, and the place of each."""

    name: str
    slots: list[str]


class PlanStep(PlanModel):
    """One step at the bench. ``ref`` is op:, remove:, fit: or torque: and a key of the book.

    ``template`` it is written on and ``why`` it is in this plan; ``state`` is the engine after it,
    None where the book does not say what its steps do. ``waiting`` minutes pass by themselves,
    ``bursts`` are timed.
    ``begins`` minutes after the plan does, ``place`` is the bank or end of the engine it is done
    at; ``waits_for`` and ``held_up`` are the steps it waits for and those that wait for it;
    ``no_return`` says what cannot be put back as it was from this step on; ``tour`` is how the
    crank is turned to bolts that show one after another; ``bolts`` draws where each goes;
    ``part`` is the part of the drive it touches; ``tray`` is how what comes off is laid out, or
    lies there to be put back, each in its own place. ``fitted`` is what else its fasteners may be.
    """

    ref: str
    template: str | None = None
    why: str = ""
    state: StepState | None = None
    waiting: float = 0.0
    bursts: Bursts | None = None
    begins: float = 0.0
    place: str | None = None
    waits_for: list[str] = []
    held_up: list[str] = []
    no_return: str = ""
    tour: Tour | None = None
    bolts: list[BoltMap] = []
    tray: list[TrayRow] = []
    fitted: list[Fitted] = []
    part: str | None = None
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
    def one_press(self) -> list[str | None]:
        """What one press answers to each question where all is as it should be; None for what only
        a figure of one's own answers: a length, and the links of a chain that is laid.
        """
        is_laid = self.verb is Verb.FIT
        return [a.as_it_should_be(is_laid) for a in self.asked]

    @computed_field
    @property
    def about(self) -> str | None:
        """The component it takes off, fits or tightens; None for an operation."""
        verb, key = StepRef.of(self.ref)
        return None if verb is Verb.OPERATION else key
