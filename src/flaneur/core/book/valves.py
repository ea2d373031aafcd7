"""Pistons and valves in the engine book: what can meet when cams and crank do not belong together."""

from typing import Literal

from pydantic import Field

from flaneur.core.book.base import AtLeastZero, BookModel, Finite, Id, Positive

Shape = Literal["harmonic", "cycloidal", "poly_345"]
School = Literal["tool", "followers_out", "chain_tied"]


class ValveGroup(BookModel):
    """The like valves of some cylinders on one cam: one row of intake or exhaust valves.

    ``centreline_deg`` is the crank angle of full lift after the cylinder's own compression top dead centre.
    ``rest_gap_mm`` is measured along the bore with the valve closed and the piston at the top; the pocket comes on
    top of it. ``spring_n`` is the force of one closed valve's spring.
    """

    name: str
    cam: Id
    kind: Literal["intake", "exhaust"]
    cylinders: list[int] = Field(min_length=1)
    valves_each: int = Field(ge=1, le=4, description="Valves of this kind in one cylinder.")
    max_lift_mm: Positive
    duration_deg: float = Field(gt=120, lt=400, description="Crank degrees from opening to closing.")
    centreline_deg: float = Field(ge=0, lt=720)
    shape: Shape
    angle_to_bore_deg: float = Field(ge=0, lt=60)
    rest_gap_mm: Finite
    pocket_mm: AtLeastZero = 0.0
    spring_n: Positive
    spring_n_per_mm: Positive
    follower_clock_deg: Finite = Field(description="Clock direction from the cam's middle to where it meets its follower.")


class Holding(BookModel):
    """One way of keeping cams from turning while their chain is off."""

    school: School
    name: str
    text: str
    cams: list[Id] = Field(default_factory=list, description="Cams it holds; empty means all.")
    followers_out: dict[Id, list[int]] = Field(default_factory=dict, description="Valve group and the cylinders whose followers come out.")


class Clearance(BookModel):
    """Crank drive and valves. ``fires_deg`` gives each cylinder's compression top dead centre in the 720° cycle."""

    bore_mm: Positive
    stroke_mm: Positive
    rod_mm: Positive
    pin_offset_mm: Finite = 0.0
    fires_deg: dict[int, float]
    valves: dict[Id, ValveGroup]
    cam_friction_nm: Positive = Field(description="Torque that friction holds on one cam.")
    holding: list[Holding] = Field(default_factory=list[Holding])
    source: str
