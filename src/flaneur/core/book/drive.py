"""The drive in the engine book: shafts, sprockets, chains, guides, tensioners, gears."""

from typing import Literal

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Finite, Id, Point, Positive
from flaneur.core.book.marks import MarkedLink


class ServicePosition(BookModel):
    """Where the crank stands for the work, and how that is seen."""

    crank_deg: float = Field(ge=0, lt=720)
    text: str


class DrivePlane(BookModel):
    """The end a drive is seen from, and which way it runs in that view."""

    seen_from: str
    running_direction: Literal["clockwise", "anticlockwise"]


class Shaft(BookModel):
    """Something that turns: the crank, a cam, an idler, a pump or a balance shaft."""

    name: str
    kind: Literal["crank", "idler", "cam", "pump", "balance"]
    bank: str | None = None
    role: Literal["intake", "exhaust"] | None = None
    crank_turns: Positive | None = Field(
        default=None,
        description="Crank turns for one turn of it, where the book fixes it (cams: 2).",
    )

    @property
    def title(self) -> str:
        """A cam by its role alone, such as “Intake cam”; its name where it has none."""
        return f"{self.role.capitalize()} {self.kind}" if self.role else self.name

    @property
    def short_name(self) -> str:
        """A cam by its role and bank, such as “Intake A”; its name where it has not both."""
        return f"{self.role.capitalize()} {self.bank}" if self.role and self.bank else self.name


class Sprocket(BookModel):
    """A sprocket or toothed pulley. ``fixed_by`` says what positions it on its shaft: a taper,
    nothing at all.
    """

    name: str
    shaft: Id
    plane: Id = "main"
    fixed_by: Literal["key", "dowel", "slots", "taper", "phaser", "one_piece"] = "key"
    slot_deg: Positive | None = Field(
        default=None, description="Travel in its slots, degrees of its own shaft."
    )
    row: int = Field(
        default=0, ge=0, le=4, description="Rows outwards from the block; inner chains go on first."
    )
    at_mm: Point
    teeth: int = Field(ge=8, le=120)
    mark_clock_deg: float = Field(
        description="Clock position of the timing-mark tooth at the service position."
    )
    wrap: Literal[1, -1] = 1


class LinkCount(BookModel):
    """Links from the marked tooth of one sprocket to that of the next, in the direction of
    travel.
    """

    start: Id
    end: Id
    links: int = Field(gt=0)


class WearPrior(BookModel):
    """Ordinary wear after h hours: mean ``typical·(h/typical_hours)**shape``, with a spread in
    proportion.
    """

    typical: Positive
    typical_hours: Positive
    shape: Positive = 1.0
    spread: Positive = Field(description="Standard deviation as a fraction of the mean.")
    floor: Positive = Field(description="Smallest standard deviation, same unit as the wear.")
    poor_oil_factor: float = Field(ge=1)
    worn_out: float = Field(
        gt=0, lt=0.5, description="Chance that this part has worn out of turn, past ordinary wear."
    )
    source: str


class Chain(BookModel):
    """A chain or toothed belt and the loop it runs, in travel direction from its driver."""

    name: str
    type: Literal["bush", "roller", "inverted_tooth", "toothed_belt"]
    pitch_mm: Positive
    links: int = Field(ge=10, le=400, description="Links of a chain, teeth of a belt.")
    driver: Id
    loop: list[Id] = Field(
        min_length=2, description="Sprockets, guides and arms in travel order from the driver."
    )
    counts: list[LinkCount] = Field(
        default_factory=list[LinkCount], description="None for a chain that times nothing."
    )
    marked_links: list[MarkedLink] = Field(default_factory=list[MarkedLink])
    limit_elongation_pct: Positive
    wear: WearPrior


class Guide(BookModel):
    """A fixed face that a chain runs over; lengths in millimetres."""

    name: str
    chain: Id
    centre_mm: Point
    radius_mm: Positive = Field(description="Radius of the chain's pin line on a new face.")
    wrap: Literal[1, -1]
    liner_mm: Positive = Field(description="Thickness of a new liner.")
    limit_wear_mm: Positive
    wear: WearPrior


class Arm(Guide):
    """A face that the tensioner moves; ``centre_mm`` is its face's centre at the book extension.

    It turns about ``pivot_mm``; without a pivot it is a shoe that goes straight along with the
    plunger.
    """

    pivot_mm: Point | None = None
    tensioner: Id


class Tensioner(BookModel):
    """What presses an arm against its chain; lengths in millimetres, force in newtons."""

    name: str
    pad_mm: Point = Field(description="Where the plunger meets the arm at the book extension.")
    direction_clock_deg: float = Field(description="Clock direction in which the plunger extends.")
    book_plunger_mm: Positive
    max_plunger_mm: Positive
    stop_mm: AtLeastZero = Field(
        default=0,
        description="Extension to which it can be pushed back when empty and without a ratchet.",
    )
    tolerance_mm: Positive = Field(
        description="One standard deviation of extension on a new drive."
    )
    notch_mm: Positive | None = Field(
        default=None, description="Distance of ratchet notches; none without a ratchet."
    )
    first_notch_mm: float = Field(
        default=0, ge=0, description="Extension at the first notch that shows."
    )
    body_mm: Positive | None = Field(
        default=None, description="Length of the body, for a gauge over the whole tensioner."
    )
    leak_down_s: Positive | None = Field(
        default=None, description="Shortest time a sound one takes to sink under the test load."
    )
    leak_down_n: Positive = Field(default=200, description="Test load, newton.")
    port_mm: Positive | None = Field(
        default=None,
        description="Extension at which a pin goes in through its port, with the crank turned back "
        "so that the chain presses the plunger in; none: it has no port.",
    )
    port_back_deg: Positive | None = Field(
        default=None, description="How far the crank may be turned back for that, at most."
    )
    release: str


class Gear(BookModel):
    """A gear in the drive, such as of a balance shaft."""

    name: str
    shaft: Id
    plane: Id = "main"
    at_mm: Point
    teeth: int = Field(ge=8, le=200)
    module_mm: Positive
    mark_clock_deg: Finite = Field(
        description="Clock position of its marked tooth at the service position."
    )


class Mesh(BookModel):
    """Two gears in mesh: the driven one turns the other way."""

    driver: Id
    driven: Id
