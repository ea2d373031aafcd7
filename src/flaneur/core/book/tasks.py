"""What a book says of work: parts that come off and go on, fasteners, and what must be seen."""

from typing import Annotated, Literal

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Finite, Id, Positive


class Stage(BookModel):
    """One stage of a torque program."""

    kind: Literal["torque", "angle", "back_off"]
    value: Positive = Field(description="N·m for torque, degrees for angle and back-off.")
    tolerance: Positive


class Shows(BookModel):
    """Where the crank stands when each fastener of a kind can be reached, in the order of their
    numbers; ``window_deg`` either way. ``every_turn``: it comes round with the crank, not the cam.
    """

    at_deg: list[Annotated[float, Field(ge=0, lt=720)]] = Field(min_length=1)
    window_deg: Annotated[float, Field(gt=0, le=90)] = 10.0
    every_turn: bool = False


class Places(BookModel):
    """Where fasteners of a kind sit, millimetres, x right and y up, numbered in the order they are
    tightened; they are loosened the other way round.

    ``long``: numbers of those that have the last of ``lengths_mm``. ``plane``: the drive plane
    whose figures these are; none: the part as it lies before whoever works at it.
    """

    at_mm: list[tuple[Finite, Finite]] = Field(min_length=2)
    long: list[int] = Field(default_factory=list[int])
    plane: Id | None = None


class Variant(BookModel):
    """What may be fitted in a fastener's place, a used bolt or a stud, with its own program.
    ``is_stop_gap``: a lead alone may leave it, for a written reason.
    """

    name: str
    stages: list[Stage] = Field(min_length=1)
    surface: Literal["dry", "oiled", "threadlocker"] | None = None
    is_stop_gap: bool = False
    note: str | None = None


class Fastener(BookModel):
    """Fasteners of one kind with their torque program.

    ``thread`` such as M8; ``lengths_mm`` of the shank, the short ones first, ``holes`` says which
    belongs where when they differ.
    """

    name: str
    thread: str | None = Field(default=None, pattern=r"^M[1-9][0-9]?(x[0-9.]+)?$")
    lengths_mm: list[Positive] = Field(default_factory=list[float])
    surface: Literal["dry", "oiled", "threadlocker"] | None = None
    holes: str | None = None
    count: int = Field(ge=1, le=60)
    one_use: bool = False
    price: float = Field(default=0, ge=0, description="Price of one, where it is one-use.")
    stages: list[Stage] = Field(min_length=1)
    variants: dict[Id, Variant] = Field(
        default_factory=dict[str, Variant], description="What else may be fitted in its place."
    )
    pattern: str
    room_deg: Positive | None = Field(
        default=None, description="How far a wrench can swing on it; none: not known."
    )
    places: Places | None = None
    shows: Shows | None = Field(
        default=None, description="Where some are reached only after turning the crank."
    )
    tool: str
    note: str | None = None


class Observe(BookModel):
    """What the technician must see and enter to close a step."""

    kind: Literal["count", "mark", "word", "measure"]
    ask: str
    code: Id | None = Field(default=None, description="What is observed, whatever its words are.")
    expected: int | None = None
    choices: list[str] = Field(default_factory=list)
    codes: list[Id] = Field(
        default_factory=list, description="One for each of the choices, or none at all."
    )
    right: list[str] = Field(default_factory=list)
    contact: str | None = Field(
        default=None, description="chain/sprocket whose tooth this mark shows."
    )
    unit: str | None = None
    low: Finite | None = None
    high: Finite | None = None
    per_valve: bool = Field(
        default=False,
        description="Asked as the clearance of each valve, where the book says what it may be.",
    )
    pins: int = Field(
        default=0, description="Locks, pins or wedges put in (positive) or taken out (negative)."
    )


class Effects(BookModel):
    """What a task does to the state of the engine; everything else leaves it as it is.

    Components that come off and go on say so by being taken off and fitted; here stands what turns,
    what is held, which chains hang slack, and what is put into the engine or owed to it.
    """

    crank_to_deg: float | None = Field(
        default=None, ge=0, lt=720, description="Turned forwards until it stands here."
    )
    crank_by_deg: Finite | None = Field(
        default=None, description="Rolled by so much, backwards below nought."
    )
    full_turns: int = Field(default=0, ge=0, description="Whole crank turns, forwards.")
    rounds: Id | None = Field(
        default=None, description="Fasteners worked on one by one as they show while it turns."
    )
    turned_by: Id | None = Field(
        default=None, description="Component the crank is turned by; none: at the crank itself."
    )
    reads: list[Id] = Field(default_factory=list, description="Marks that must be seen for it.")
    checks: list[str] = Field(default_factory=list, description="Check positions it reads.")
    coming_back: int | None = Field(
        default=None, description="Crank turns its text gives until coloured links come back."
    )
    locks_crank: bool = False
    frees_crank: bool = False
    holds: list[Id] = Field(default_factory=list, description="Cams it holds fast.")
    by: Id | None = Field(default=None, description="Tool they are held with.")
    lets_go: list[Id] = Field(default_factory=list)
    followers_out: dict[Id, list[int]] = Field(default_factory=dict)
    followers_in: dict[Id, list[int]] = Field(default_factory=dict)
    phasers_locked: list[Id] = Field(
        default_factory=list, description="Phasers felt to be locked in park."
    )
    works: list[Id] = Field(
        default_factory=list, description="Cams that may slip while a bolt of theirs is worked."
    )
    loosened: list[Id] = Field(
        default_factory=list, description="Components whose bolts are broken loose already."
    )
    keeps_taut: bool = Field(
        default=False, description="A second person keeps slack chains taut while it turns."
    )
    frees_taper: list[Id] = Field(
        default_factory=list, description="Cams whose taper grips nothing until it is torqued."
    )
    slackens: list[Id] = Field(default_factory=list, description="Chains left without tension.")
    tightens: list[Id] = Field(default_factory=list)
    chains_off: list[Id] = Field(default_factory=list)
    chains_on: list[Id] = Field(default_factory=list)
    puts_in: dict[Id, int] = Field(
        default_factory=dict, description="Tools, pins and wedges put into the engine."
    )
    takes_out: dict[Id, int] = Field(default_factory=dict)
    under: list[Id] = Field(
        default_factory=list, description="Covers that must not close over what is put in."
    )
    owes: list[Id] = Field(
        default_factory=list, description="What must be undone again before the engine turns."
    )
    pays: list[Id] = Field(default_factory=list)


class Bursts(BookModel):
    """A starter's bursts with rests between, starting disabled: ``most`` of them, then it stops."""

    crank_s: float = Field(gt=0, le=20)
    rest_s: float = Field(gt=0, le=600)
    most: int = Field(ge=1, le=10)


class Task(BookModel):
    """Something done at the bench: taking a part off, putting it on, or an operation of its own.

    ``waiting_minutes`` pass by themselves: nobody need stand by. ``maker_touches`` is the maker's
    own word that valves touch in this step, for an order that cannot be had otherwise.
    """

    template: Id | None = None
    text: str
    looks_right: str
    remedy: str
    minutes: Positive
    spread_minutes: Positive = 2.0
    waiting_minutes: AtLeastZero = 0.0
    bursts: Bursts | None = None
    supplies: list[str] = Field(
        default_factory=list[str], description="Gaskets, washers, sealant and fluids it takes."
    )
    effects: Effects = Effects()
    maker_touches: str | None = None
    two_person: bool = False
    tools: list[str] = Field(default_factory=list)
    cautions: list[Id] = Field(default_factory=list)
    observe: Observe | None = None
    observes: list[Observe] = Field(
        default_factory=list[Observe], description="When one look has several answers."
    )


class Revised(BookModel):
    """What takes the place of a part that is no longer made as it was. ``bolts``: fasteners that
    the new one needs instead of those it had, by their ids; the new ones are always new.
    """

    name: str
    price: AtLeastZero | None = Field(default=None, description="None: as the part it replaces.")
    bolts: dict[Id, Id] = Field(default_factory=dict[str, str])
    why: str = Field(description="What tells the two apart, and what goes wrong if they are mixed.")


class Component(BookModel):
    """A part that comes off and goes on, or is renewed."""

    name: str
    kind: str | None = Field(default=None, description="Its kind among the templates.")
    part: str | None = Field(
        default=None, description="What it is in the drive: chain, guide, arm, tensioner, phaser."
    )
    price: float = Field(ge=0, description="Price in the depot's own currency.")
    renewable: bool = True
    one_use: bool = Field(default=False, description="Renewed whenever it comes off.")
    covered_by: list[Id] = Field(default_factory=list)
    comes_with: list[Id] = Field(
        default_factory=list,
        description="Parts that come off with it in any order, since it cannot be lifted alone.",
    )
    fasteners: list[Id] = Field(default_factory=list)
    renew_with: list[Id] = Field(
        default_factory=list, description="Parts the book renews together with this one."
    )
    revised: Revised | None = None
    fit_after: list[Id] = Field(
        default_factory=list, description="Inner parts that go on before this one."
    )
    remove_after: list[Id] = Field(
        default_factory=list, description="Parts that come off before this one."
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
    and_for: list[Id] = Field(
        default_factory=list, description="And at least one of these; empty asks for none of them."
    )
    only_new: bool = Field(
        default=False, description="Only when one of those it is needed for is renewed."
    )
    before: list[str] = Field(
        default_factory=list, description="step references such as remove:cover or op:pin"
    )
    after: list[str] = Field(default_factory=list)
