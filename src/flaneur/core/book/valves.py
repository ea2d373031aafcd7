"""Pistons and valves in the engine book: what can meet when cams and crank do not belong
together.
"""

from typing import Literal

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Finite, Id, Positive

Shape = Literal["harmonic", "cycloidal", "poly_345", "table"]
School = Literal["tool", "followers_out", "chain_tied", "chain_left"]
Crown = Literal["flat", "pocket", "relief", "domed"]


class ValveGroup(BookModel):
    """The like valves of some cylinders on one cam: one row of intake or exhaust valves.

    Lift is at the valve with no lash, a rocker's ratio in it. ``centreline_deg`` is the crank angle
    of full lift after the cylinder's own compression top dead centre. ``rest_gap_mm`` is measured
    along the bore at the lowest edge of the closed valve's head with the piston at the top; the
    pocket comes on top of it. ``spring_n`` is the force of one closed valve's spring.
    """

    name: str
    cam: Id
    kind: Literal["intake", "exhaust"]
    cylinders: list[int] = Field(min_length=1)
    valves_each: int = Field(ge=1, le=4, description="Valves of this kind in one cylinder.")
    max_lift_mm: Positive
    duration_deg: float = Field(
        gt=120,
        lt=400,
        description="Crank degrees from opening to closing, at duration_at_mm of lift.",
    )
    duration_at_mm: AtLeastZero = Field(
        default=0.0,
        description="Lift at which the duration is measured; 0 is seat to seat, ramps in it.",
    )
    centreline_deg: float = Field(ge=0, lt=720)
    shape: Shape
    lift_table: list[tuple[Finite, AtLeastZero]] = Field(
        default_factory=list[tuple[float, float]],
        description="For shape table: crank degrees from full lift and lift, rising to the middle "
        "and falling.",
    )
    angle_to_bore_deg: float = Field(ge=0, lt=60)
    rest_gap_mm: Finite
    pocket_mm: AtLeastZero = 0.0
    crown: Crown | None = Field(
        default=None,
        description="Under the valves: flat; pocket (flat-bottomed, wide); relief (parallel to the "
        "head); domed. Unknown takes the worst.",
    )
    head_mm: Positive | None = Field(default=None, description="Diameter of a valve's head.")
    spring_n: Positive
    spring_n_per_mm: Positive
    clearance_mm: tuple[AtLeastZero, AtLeastZero] | None = Field(
        default=None, description="Play of a closed valve, cold: least and most; none: not set."
    )
    graduation_mm: Positive | None = Field(
        default=None,
        description="Play that one graduation of its turned adjuster gives, counted from where it "
        "touches; none: the adjuster has no graduations.",
    )
    follower_clock_deg: Finite = Field(
        description="Clock direction from the cam's middle to where it meets its follower."
    )


class Holding(BookModel):
    """One way of keeping cams from turning while their chain is off.

    ``chain_left`` ties cams to each other and holds none of them: they move as one.
    """

    school: School
    name: str
    text: str
    cams: list[Id] = Field(default_factory=list, description="Cams it holds; empty means all.")
    followers_out: dict[Id, list[int]] = Field(
        default_factory=dict, description="Valve group and the cylinders whose followers come out."
    )


class Seats(BookModel):
    """Where an intake's and an exhaust's seat of one cylinder lie to each other, both valves
    closed.

    ``across``: they face each other over the head and lean together as they open; ``row``: side by
    side and parallel.
    """

    layout: Literal["across", "row"]
    bridge_mm: Positive = Field(
        description="Least distance between the edges of an intake's and an exhaust's closed head."
    )
    step_mm: Finite = Field(
        default=0.0,
        description="How much lower, along the bore, the exhaust's near edge lies than the "
        "intake's.",
    )
    edge_mm: Positive = Field(default=1.5, description="Thickness of a head at its edge.")


class Reserve(BookModel):
    """What is kept between what is said to be safe and a contact. A cam's allowed deviation from
    the book comes on top.
    """

    room_mm: float = Field(default=0.8, ge=0.3, le=3)
    crank_deg: float = Field(
        default=2.0,
        ge=0.5,
        le=10,
        description="How far the crank may stand from where it is said to stand.",
    )


class Clearance(BookModel):
    """Crank drive and valves. ``fires_deg`` gives each cylinder's compression top dead centre in
    the 720° cycle.

    ``pin_offset_mm`` above zero moves a piston's highest place after its nominal top.
    """

    bore_mm: Positive
    stroke_mm: Positive
    rod_mm: Positive
    pin_offset_mm: Finite = 0.0
    fires_deg: dict[int, Finite]
    firing_order: list[int] = Field(
        default_factory=list[int],
        description="Cylinders as they fire, from 1: a second witness for fires_deg.",
    )
    interference: bool = Field(
        default=True, description="Whether valves can meet pistons at all, as the maker says."
    )
    reserve: Reserve = Reserve()
    seats: Seats | None = None
    valves: dict[Id, ValveGroup]
    cam_friction_nm: Positive = Field(description="Torque that friction holds on one cam.")
    holding: list[Holding] = Field(default_factory=list[Holding])
    source: str
