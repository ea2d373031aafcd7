"""The engine book: everything the product knows about one engine, as validated models.

Lengths are millimetres seen from the chain end (x right, y up); angles named ``_deg`` are crank
degrees unless the name says otherwise; clock positions are degrees clockwise from twelve o'clock.
"""

import hashlib
from functools import cached_property
from typing import Annotated, Literal

from pydantic import Field, PrivateAttr

from flaneur.core.book.base import BookModel, Finite, Id, Positive
from flaneur.core.book.drive import (
    Arm,
    Chain,
    DrivePlane,
    Gear,
    Guide,
    Mesh,
    ServicePosition,
    Shaft,
    Sprocket,
    Tensioner,
)
from flaneur.core.book.kits import Kit
from flaneur.core.book.marks import CheckPosition, Mark, Tool
from flaneur.core.book.tasks import Component, Fastener, Operation
from flaneur.core.book.valves import Clearance
from flaneur.core.book.ways import Way
from flaneur.core.errors import BookError, Fault

MAIN = "main"


class Bank(BookModel):
    """A row of cylinders under one head."""

    name: str
    cylinders: list[int] = Field(min_length=1)


class PhaserResponse(BookModel):
    """How a sound phaser answers a step command, at a reference oil temperature and pressure.

    Rates go with (p/p_ref)**pressure_exponent and fall by ``cold_factor`` for every 10 K below the
    reference, since cold oil is thick; dead time grows by the same factor. Crank degrees, seconds.
    """

    oil_c: Finite = 90
    oil_kpa: Positive = 300
    dead_time_s: Positive = 0.12
    rate_out_deg_s: Positive = 90
    rate_back_deg_s: Positive = 110
    rate_tolerance: Annotated[float, Field(gt=0, lt=1)] = 0.3
    pressure_exponent: Annotated[float, Field(ge=0, le=2)] = 0.5
    cold_factor: Annotated[float, Field(gt=0.5, le=1)] = 0.93
    hunting_deg: Positive = Field(
        default=0.8, description="Largest swing (half peak to peak) about a held command."
    )
    source: str = "Invented for this book"


class Phaser(BookModel):
    """What turns a cam against its sprocket; crank degrees away from park."""

    name: str
    shaft: Id
    range_deg: Positive = Field(description="Travel in crank degrees.")
    moves: Literal["advance", "retard"] = Field(description="Direction of travel away from park.")
    park_tolerance_deg: Positive
    steady_error_deg: Positive
    response: PhaserResponse = PhaserResponse()
    fault_prior: Annotated[float, Field(gt=0, lt=1)]

    @property
    def late_sign(self) -> float:
        """What a degree away from park does to its cam: −1 where it comes earlier by it."""
        return -1.0 if self.moves == "advance" else 1.0


class ToneWheel(BookModel):
    """What crank and cam wheels share. A variable-reluctance sensor gives one event a tooth: its
    zero crossing.

    ``pulse_deg`` is the half width of such a tooth's pulse (middle to peak) in crank degrees,
    ``volts_per_krpm`` its peak at 1000 rpm.
    """

    name: str
    shaft: Id
    channel: Id
    sensor: Literal["hall", "vr"] = "hall"
    pulse_deg: Positive = 1.2
    volts_per_krpm: Positive = 1.5
    tolerance_deg: Positive
    slip_prior: Annotated[float, Field(gt=0, lt=1)]
    delay_us: float = Field(
        default=0.0, ge=0, le=1000, description="By how much the sensor answers late, µs."
    )
    delay_tolerance_us: float = Field(
        default=20.0,
        ge=0,
        le=1000,
        description="One standard deviation of that from sensor to sensor, µs.",
    )


class Gap(BookModel):
    """A further gap: ``after`` places from the first tooth, ``missing`` places wide."""

    after: int = Field(ge=1, le=359)
    missing: int = Field(ge=1, le=8)


class GapWheel(ToneWheel):
    """A crank wheel of evenly spaced places, the last ``missing`` of them empty: 60−2, 36−1, or
    48−2−2 with one more gap.
    """

    kind: Literal["gap"]
    teeth: int = Field(ge=4, le=360, description="Places round the wheel, missing teeth counted.")
    missing: int = Field(ge=1, le=8)
    more_gaps: list[Gap] = Field(default_factory=list[Gap])
    first_tooth_deg: Finite = Field(
        description="Active edge (or zero crossing) of the first tooth after the last gap."
    )
    tooth_fraction: Annotated[float, Field(gt=0.1, lt=0.9)] = 0.5


class EdgeWheel(ToneWheel):
    """A crank wheel given tooth by tooth: rising and falling edge of each, crank degrees of one
    turn.
    """

    kind: Literal["edges"]
    teeth_deg: list[tuple[Finite, Finite]] = Field(min_length=2)


class VaneWheel(ToneWheel):
    """A cam wheel of vanes: each vane's rising and falling edge, in crank degrees of the 720°
    cycle.
    """

    kind: Literal["vanes"]
    vanes_deg: list[tuple[Finite, Finite]] = Field(min_length=1)


class Signals(BookModel):
    """What sensors and engine give at idle: speed, levels in volts, rise time of an edge."""

    edge_rise_us: Positive = Field(description="10-90 % rise time of the sensors' edges.")
    low_v: Finite
    high_v: Finite
    idle_rpm: Positive


class Limits(BookModel):
    """What the book allows: deviation and scatter in crank degrees, lash, oil pressure."""

    cam_deviation_deg: Positive = Field(
        description="Release tolerance of every cam against the book, crank degrees."
    )
    cycle_scatter_deg: Positive
    jump_prior: Annotated[float, Field(gt=0, lt=1)] = Field(
        description="Chance of a jumped tooth, per contact."
    )
    lash_bands_deg: tuple[Positive, Positive] | None = Field(
        default=None,
        description="Reverse-rotation lash at the crank: fine up to the first, to be replaced from "
        "the second. A shop's rule.",
    )
    oil_kpa_hot_idle: Positive | None = None


class Proof(BookModel):
    """What must be seen before release."""

    hand_turns: int = Field(ge=2)
    mark_checks: list[str]
    text: str


class EngineBook(BookModel):
    """An engine as its book has it. Equal to another of the same content."""

    format: Literal["flaneur-book/1"]
    name: str
    kind: str
    revision: int = Field(ge=1)
    notice: str
    cylinders: int = Field(ge=1, le=16)
    banks: dict[str, Bank]
    drive_plane: DrivePlane
    further_planes: dict[Id, DrivePlane] = Field(
        default_factory=dict, description="Drives at the other end; the first is called main."
    )
    service_position: ServicePosition
    check_positions: list[CheckPosition] = Field(default_factory=list[CheckPosition])
    signals: Signals
    limits: Limits
    shafts: dict[Id, Shaft]
    sprockets: dict[Id, Sprocket]
    chains: dict[Id, Chain]
    guides: dict[Id, Guide]
    arms: dict[Id, Arm]
    tensioners: dict[Id, Tensioner]
    gears: dict[Id, Gear] = Field(default_factory=dict)
    meshes: list[Mesh] = Field(default_factory=list[Mesh])
    marks: dict[Id, Mark] = Field(default_factory=dict)
    tools: dict[Id, Tool] = Field(default_factory=dict)
    clearance: Clearance | None = None
    phasers: dict[Id, Phaser]
    tone_wheels: dict[Id, Annotated[GapWheel | EdgeWheel | VaneWheel, Field(discriminator="kind")]]
    fasteners: dict[Id, Fastener]
    cautions: dict[Id, str]
    components: dict[Id, Component]
    operations: dict[Id, Operation]
    usual_way: str = Field(
        default="As the book has it",
        description="Name of the way that its work is.",
    )
    ways: dict[Id, Way] = Field(default_factory=dict[str, Way])
    kits: dict[Id, Kit] = Field(default_factory=dict[str, Kit])
    proof: Proof
    _of_shop: frozenset[str] = PrivateAttr(default=frozenset())

    def __hash__(self) -> int:
        """By content: what was worked out from a book is kept with it."""
        return hash(self.fingerprint)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, EngineBook) and self.fingerprint == other.fingerprint

    def __copy__(self) -> "EngineBook":
        """A copy is about to be changed: it works out its own fingerprint."""
        copied = super().__copy__()
        vars(copied).pop("fingerprint", None)
        return copied

    @cached_property
    def fingerprint(self) -> str:
        """SHA-256 of all the book says, whatever its file looks like."""
        return hashlib.sha256(self.model_dump_json().encode()).hexdigest()

    def note_of_shop(self, limits: frozenset[str]) -> None:
        """Note which limits are the shop's, since the book gives none."""
        self._of_shop = limits

    def said_by(self, limit: str) -> str:
        """Who gives a limit, to be put behind it: nothing for the book itself."""
        return ", by the shop's rule" if limit in self._of_shop else ""

    def __repr__(self) -> str:
        return f"EngineBook({self.name!r}, revision={self.revision})"

    @property
    def cams(self) -> list[str]:
        """Cam shafts in book order."""
        return [key for key, shaft in self.shafts.items() if shaft.kind == "cam"]

    @property
    def planes(self) -> dict[str, DrivePlane]:
        """Drive planes by id, the main one first."""
        return {MAIN: self.drive_plane, **self.further_planes}

    @property
    def crank_wheel_key(self) -> str | None:
        """Id of the crank's tone wheel; None for an engine that carries none."""
        return next((k for k, w in self.tone_wheels.items() if not isinstance(w, VaneWheel)), None)

    @property
    def can_be_captured(self) -> bool:
        """Whether crank and cam signals can be captured at all."""
        return self.crank_wheel_key is not None and bool(self.cam_wheels)

    def check_capturable(self) -> None:
        """Raise BookError for an engine whose signals cannot show where its cams stand."""
        wheel = self.crank_wheel
        if not self.cam_wheels:
            raise BookError(
                f"The {self.name} has its {wheel.name.lower()} but no cam tone wheels: a capture "
                "of it shows no cam.",
                [Fault("tone_wheels", "no wheel of kind vanes")],
                read="no cam wheel in the book",
                expected="a wheel of kind vanes on a cam",
                advice="Read this engine by its marks, lash and lengths.",
            )

    @property
    def crank_wheel(self) -> GapWheel | EdgeWheel:
        """The crank's tone wheel. Raises BookError for an engine without one: its signals cannot be
        decoded.
        """
        for wheel in self.tone_wheels.values():
            if not isinstance(wheel, VaneWheel):
                return wheel
        raise BookError(
            f"The {self.name} carries no tone wheel on its crankshaft: a capture of it cannot be "
            "decoded.",
            [Fault("tone_wheels", "no wheel of kind gap or edges")],
            read="no crank wheel in the book",
            expected="a wheel of kind gap or edges",
            advice="Read this engine by its marks, lash and lengths.",
        )

    @property
    def crank_tolerance_deg(self) -> float:
        """Tolerance of the crank wheel, nought where there is none to be off."""
        key = self.crank_wheel_key
        return self.tone_wheels[key].tolerance_deg if key else 0.0

    @property
    def cam_wheels(self) -> dict[str, VaneWheel]:
        """Cam tone wheels by channel, in book order."""
        return {w.channel: w for w in self.tone_wheels.values() if isinstance(w, VaneWheel)}

    def cam_wheel(self, cam: str) -> VaneWheel | None:
        """The tone wheel of a cam; None when the cam carries none."""
        return next(
            (w for w in self.tone_wheels.values() if isinstance(w, VaneWheel) and w.shaft == cam),
            None,
        )

    def wheel_name(self, key: str) -> str:
        """A tone wheel by what it is read for: its cam in short, or the crank."""
        wheel = self.tone_wheels[key]
        return self.shafts[wheel.shaft].short_name if isinstance(wheel, VaneWheel) else "Crank"

    def cam_tolerance_deg(self, cam: str) -> float:
        """Tolerance of a cam's tone wheel, nought where the cam is read in another way."""
        wheel = self.cam_wheel(cam)
        return wheel.tolerance_deg if wheel else 0.0

    def phaser_of(self, cam: str) -> str | None:
        """The phaser of a cam; None for a cam without one."""
        return next((key for key, phaser in self.phasers.items() if phaser.shaft == cam), None)

    def check_of(self, cam: str) -> CheckPosition | None:
        """The crank angle at which a cam is checked; None where the book has none for it."""
        return next((p for p in self.check_positions if cam in p.cams), None)

    def mark_at_deg(self, mark: Mark) -> float:
        """Crank angle at which a mark stands where it says: its own, or the service position."""
        return self.service_position.crank_deg if mark.at_deg is None else mark.at_deg

    def shafts_on(self, chain: str) -> set[str]:
        """Shafts whose sprockets a chain runs over."""
        loop = self.chains[chain].loop
        return {self.sprockets[s].shaft for s in loop if s in self.sprockets}

    def wheels_on(self, chain: str) -> set[str]:
        """Sprockets a chain runs over, and the phasers they turn on."""
        shafts = self.shafts_on(chain)
        phasers = {key for key, phaser in self.phasers.items() if phaser.shaft in shafts}
        return phasers | {s for s in self.chains[chain].loop if s in self.sprockets}

    def arm_of(self, chain: str) -> str | None:
        """The arm that tensions a chain; None for a chain without a tensioner."""
        return next((key for key, arm in self.arms.items() if arm.chain == chain), None)

    def tensioner_of(self, chain: str) -> Tensioner | None:
        """The tensioner of a chain; None for a chain without one."""
        arm = self.arm_of(chain)
        return self.tensioners[self.arms[arm].tensioner] if arm else None
