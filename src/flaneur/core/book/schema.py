"""The engine book: everything the product knows about one engine, as validated models.

Lengths are millimetres seen from the chain end (x right, y up); angles named ``_deg`` are crank degrees
unless the name says otherwise; clock positions are degrees clockwise from twelve o'clock.
"""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Point = tuple[float, float]
Id = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]*$", max_length=60)]
Finite = Annotated[float, Field(allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]


class BookModel(BaseModel):
    """Frozen, and refuses keys it does not know: a misspelt fact must not be silently ignored."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Bank(BookModel):
    name: str
    cylinders: list[int] = Field(min_length=1)


class ServicePosition(BookModel):
    crank_deg: float = Field(ge=0, lt=720)
    text: str


class DrivePlane(BookModel):
    seen_from: str
    running_direction: Literal["clockwise", "anticlockwise"]


class Shaft(BookModel):
    name: str
    kind: Literal["crank", "idler", "cam"]
    bank: str | None = None
    role: Literal["intake", "exhaust"] | None = None


class Sprocket(BookModel):
    name: str
    shaft: Id
    at_mm: Point
    teeth: int = Field(ge=8, le=120)
    mark_clock_deg: float = Field(description="Clock position of the timing-mark tooth at the service position.")
    wrap: Literal[1, -1] = 1


class LinkCount(BookModel):
    """Links from the marked tooth of one sprocket to that of the next, in the direction of travel."""

    start: Id
    end: Id
    links: int = Field(gt=0)


class Chain(BookModel):
    name: str
    type: Literal["bush", "roller", "inverted_tooth"]
    pitch_mm: Positive
    links: int = Field(ge=10, le=400)
    driver: Id
    loop: list[Id] = Field(min_length=2, description="Sprockets, guides and arms in travel order from the driver.")
    counts: list[LinkCount] = Field(min_length=1)
    limit_elongation_pct: Positive
    wear: "WearPrior"


class WearPrior(BookModel):
    """Ordinary wear after h hours: mean ``typical·(h/typical_hours)**shape``, with a spread in proportion."""

    typical: Positive
    typical_hours: Positive
    shape: Positive = 1.0
    spread: Positive = Field(description="Standard deviation as a fraction of the mean.")
    floor: Positive = Field(description="Smallest standard deviation, same unit as the wear.")
    poor_oil_factor: float = Field(ge=1)
    worn_out: float = Field(gt=0, lt=0.5, description="Chance that this part has worn out of turn, past ordinary wear.")
    source: str


class Guide(BookModel):
    name: str
    chain: Id
    centre_mm: Point
    radius_mm: Positive = Field(description="Radius of the chain's pin line on a new face.")
    wrap: Literal[1, -1]
    liner_mm: Positive = Field(description="Thickness of a new liner.")
    limit_wear_mm: Positive
    wear: WearPrior


class Arm(Guide):
    """A guide that turns about a pivot; ``centre_mm`` is its face's centre at the book extension."""

    pivot_mm: Point
    tensioner: Id


class Tensioner(BookModel):
    name: str
    pad_mm: Point = Field(description="Where the plunger meets the arm at the book extension.")
    direction_clock_deg: float = Field(description="Clock direction in which the plunger extends.")
    book_plunger_mm: Positive
    max_plunger_mm: Positive
    tolerance_mm: Positive = Field(description="One standard deviation of extension on a new drive.")
    notch_mm: Positive | None = Field(default=None, description="Distance of ratchet notches; none without a ratchet.")
    first_notch_mm: float = Field(default=0, ge=0, description="Extension at the first notch that shows.")
    body_mm: Positive | None = Field(default=None, description="Length of the body, for a gauge over the whole tensioner.")
    leak_down_s: Positive | None = Field(default=None, description="Shortest time a sound one takes to sink under the test load.")
    leak_down_n: Positive = Field(default=200, description="Test load, newton.")
    release: str


class PhaserResponse(BookModel):
    """How a sound phaser answers a step command, at a reference oil temperature and pressure.

    Rates go with (p/p_ref)**pressure_exponent and fall by ``cold_factor`` for every 10 K below the reference, since
    cold oil is thick; dead time grows by the same factor. Crank degrees, seconds.
    """

    oil_c: Finite = 90
    oil_kpa: Positive = 300
    dead_time_s: Positive = 0.12
    rate_out_deg_s: Positive = 90
    rate_back_deg_s: Positive = 110
    rate_tolerance: Annotated[float, Field(gt=0, lt=1)] = 0.3
    pressure_exponent: Annotated[float, Field(ge=0, le=2)] = 0.5
    cold_factor: Annotated[float, Field(gt=0.5, le=1)] = 0.93
    hunting_deg: Positive = Field(default=0.8, description="Largest swing (half peak to peak) about a held command.")
    source: str = "Invented for this book"


class Phaser(BookModel):
    name: str
    shaft: Id
    range_deg: Positive = Field(description="Travel in crank degrees.")
    moves: Literal["advance", "retard"] = Field(description="Direction of travel away from park.")
    park_tolerance_deg: Positive
    steady_error_deg: Positive
    response: PhaserResponse = PhaserResponse()
    fault_prior: Annotated[float, Field(gt=0, lt=1)]


class ToneWheel(BookModel):
    """What crank and cam wheels share. A variable-reluctance sensor gives one event a tooth: its zero crossing.

    ``pulse_deg`` is the half width of such a tooth's pulse (middle to peak) in crank degrees, ``volts_per_krpm``
    its peak at 1000 rpm.
    """

    name: str
    shaft: Id
    channel: Id
    sensor: Literal["hall", "vr"] = "hall"
    pulse_deg: Positive = 1.2
    volts_per_krpm: Positive = 1.5
    tolerance_deg: Positive
    slip_prior: Annotated[float, Field(gt=0, lt=1)]


class Gap(BookModel):
    """A further gap: ``after`` places from the first tooth, ``missing`` places wide."""

    after: int = Field(ge=1, le=359)
    missing: int = Field(ge=1, le=8)


class GapWheel(ToneWheel):
    """A crank wheel of evenly spaced places, the last ``missing`` of them empty: 60−2, 36−1, or 48−2−2 with one more gap."""

    kind: Literal["gap"]
    teeth: int = Field(ge=4, le=360, description="Places round the wheel, missing teeth counted.")
    missing: int = Field(ge=1, le=8)
    more_gaps: list[Gap] = Field(default_factory=list[Gap])
    first_tooth_deg: Finite = Field(description="Active edge (or zero crossing) of the first tooth after the last gap.")
    tooth_fraction: Annotated[float, Field(gt=0.1, lt=0.9)] = 0.5


class EdgeWheel(ToneWheel):
    """A crank wheel given tooth by tooth: rising and falling edge of each, crank degrees of one turn."""

    kind: Literal["edges"]
    teeth_deg: list[tuple[Finite, Finite]] = Field(min_length=2)


class VaneWheel(ToneWheel):
    """A cam wheel of vanes: each vane's rising and falling edge, in crank degrees of the 720° cycle."""

    kind: Literal["vanes"]
    vanes_deg: list[tuple[Finite, Finite]] = Field(min_length=1)


class Signals(BookModel):
    edge_rise_us: Positive = Field(description="10-90 % rise time of the sensors' edges.")
    low_v: Finite
    high_v: Finite
    idle_rpm: Positive


class Limits(BookModel):
    cam_deviation_deg: Positive = Field(description="Release tolerance of every cam against the book, crank degrees.")
    cycle_scatter_deg: Positive
    jump_prior: Annotated[float, Field(gt=0, lt=1)] = Field(description="Chance of a jumped tooth, per contact.")
    lash_bands_deg: tuple[Positive, Positive] | None = Field(
        default=None, description="Reverse-rotation lash at the crank: fine up to the first, to be replaced from the second. A shop's rule."
    )
    oil_kpa_hot_idle: Positive | None = None


class Stage(BookModel):
    kind: Literal["torque", "angle", "back_off"]
    value: Positive = Field(description="N·m for torque, degrees for angle and back-off.")
    tolerance: Positive


class Fastener(BookModel):
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
    contact: str | None = Field(default=None, description="chain/sprocket whose tooth this mark shows.")
    unit: str | None = None
    low: Finite | None = None
    high: Finite | None = None
    pins: int = Field(default=0, description="Locks, pins or wedges put in (positive) or taken out (negative).")


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
    observes: list[Observe] = Field(default_factory=list[Observe], description="When one look has several answers.")


class Component(BookModel):
    name: str
    part: str | None = Field(default=None, description="What it is in the drive: chain, guide, arm, tensioner, phaser.")
    price: float = Field(ge=0, description="Price in the depot's own currency.")
    renewable: bool = True
    one_use: bool = Field(default=False, description="Renewed whenever it comes off.")
    covered_by: list[Id] = Field(default_factory=list)
    fasteners: list[Id] = Field(default_factory=list)
    renew_with: list[Id] = Field(default_factory=list, description="Parts the book renews together with this one.")
    fit_after: list[Id] = Field(default_factory=list, description="Inner parts that go on before this one.")
    remove: Task
    fit: Task


class Operation(Task):
    name: str
    phase: Literal["prepare", "remove", "fit", "close"]
    needed_for: list[Id] = Field(default_factory=list, description="Components; empty means always.")
    before: list[str] = Field(default_factory=list, description="step references such as remove:cover or op:pin")
    after: list[str] = Field(default_factory=list)


class Proof(BookModel):
    hand_turns: int = Field(ge=2)
    mark_checks: list[str]
    text: str


class EngineBook(BookModel):
    format: Literal["flaneur-book/1"]
    name: str
    kind: str
    revision: int = Field(ge=1)
    notice: str
    cylinders: int = Field(ge=1, le=16)
    banks: dict[str, Bank]
    drive_plane: DrivePlane
    service_position: ServicePosition
    signals: Signals
    limits: Limits
    shafts: dict[Id, Shaft]
    sprockets: dict[Id, Sprocket]
    chains: dict[Id, Chain]
    guides: dict[Id, Guide]
    arms: dict[Id, Arm]
    tensioners: dict[Id, Tensioner]
    phasers: dict[Id, Phaser]
    tone_wheels: dict[Id, Annotated[GapWheel | EdgeWheel | VaneWheel, Field(discriminator="kind")]]
    fasteners: dict[Id, Fastener]
    cautions: dict[Id, str]
    components: dict[Id, Component]
    operations: dict[Id, Operation]
    proof: Proof

    @property
    def cams(self) -> list[str]:
        """Cam shafts in book order."""
        return [key for key, shaft in self.shafts.items() if shaft.kind == "cam"]

    @property
    def crank_wheel(self) -> GapWheel | EdgeWheel:
        return next(w for w in self.tone_wheels.values() if not isinstance(w, VaneWheel))

    @property
    def crank_wheel_key(self) -> str:
        return next(k for k, w in self.tone_wheels.items() if not isinstance(w, VaneWheel))

    @property
    def cam_wheels(self) -> dict[str, VaneWheel]:
        """Cam tone wheels by channel, in book order."""
        return {w.channel: w for w in self.tone_wheels.values() if isinstance(w, VaneWheel)}

    def cam_wheel(self, cam: str) -> VaneWheel:
        """The tone wheel of a cam; raises KeyError when the cam carries none."""
        for wheel in self.tone_wheels.values():
            if isinstance(wheel, VaneWheel) and wheel.shaft == cam:
                return wheel
        raise KeyError(cam)

    def phaser_of(self, cam: str) -> str | None:
        return next((key for key, phaser in self.phasers.items() if phaser.shaft == cam), None)
