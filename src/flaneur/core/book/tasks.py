"""What a book says of work: parts that come off and go on, fasteners, and what must be seen."""

from typing import Literal

from pydantic import Field

from flaneur.core.book.base import BookModel, Finite, Id, Positive


class Stage(BookModel):
    """One stage of a torque program."""

    kind: Literal["torque", "angle", "back_off"]
    value: Positive = Field(description="N·m for torque, degrees for angle and back-off.")
    tolerance: Positive


class Fastener(BookModel):
    """Fasteners of one kind with their torque program."""

    name: str
    count: int = Field(ge=1, le=60)
    one_use: bool = False
    price: float = Field(default=0, ge=0, description="Price of one, where it is one-use.")
    stages: list[Stage] = Field(min_length=1)
    pattern: str
    tool: str
    note: str | None = None


class Observe(BookModel):
    """What the technician must see and enter to close a step."""

    kind: Literal["count", "mark", "word", "measure"]
    ask: str
    expected: int | None = None
    choices: list[str] = Field(default_factory=list)
    right: list[str] = Field(default_factory=list)
    contact: str | None = Field(
        default=None, description="chain/sprocket whose tooth this mark shows."
    )
    unit: str | None = None
    low: Finite | None = None
    high: Finite | None = None
    pins: int = Field(
        default=0, description="Locks, pins or wedges put in (positive) or taken out (negative)."
    )


class Task(BookModel):
    """Something done at the bench: taking a part off, putting it on, or an operation of its own."""

    text: str
    looks_right: str
    remedy: str
    minutes: Positive
    spread_minutes: Positive = 2.0
    two_person: bool = False
    tools: list[str] = Field(default_factory=list)
    cautions: list[Id] = Field(default_factory=list)
    observe: Observe | None = None
    observes: list[Observe] = Field(
        default_factory=list[Observe], description="When one look has several answers."
    )


class Component(BookModel):
    """A part that comes off and goes on, or is renewed."""

    name: str
    part: str | None = Field(
        default=None, description="What it is in the drive: chain, guide, arm, tensioner, phaser."
    )
    price: float = Field(ge=0, description="Price in the depot's own currency.")
    renewable: bool = True
    one_use: bool = Field(default=False, description="Renewed whenever it comes off.")
    covered_by: list[Id] = Field(default_factory=list)
    fasteners: list[Id] = Field(default_factory=list)
    renew_with: list[Id] = Field(
        default_factory=list, description="Parts the book renews together with this one."
    )
    fit_after: list[Id] = Field(
        default_factory=list, description="Inner parts that go on before this one."
    )
    remove: Task
    fit: Task


class Operation(Task):
    """A task of its own, in its place in the order of work."""

    name: str
    phase: Literal["prepare", "remove", "fit", "close"]
    needed_for: list[Id] = Field(
        default_factory=list, description="Components; empty means always."
    )
    before: list[str] = Field(
        default_factory=list, description="step references such as remove:cover or op:pin"
    )
    after: list[str] = Field(default_factory=list)
