"""What a drive picture is made of: models of what is drawn; millimetres and degrees."""

import json
from typing import Any, cast

from pydantic import BaseModel, ConfigDict

from flaneur.core.drive.outline import Piece


class PictureModel(BaseModel):
    """What a picture is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class Plane(PictureModel):
    """One end of the engine: a box around what is drawn there (left, low, width, height), and the
    outline of the joint face, roughly, for orientation.
    """

    id: str
    seen_from: str
    running_direction: str
    box: list[float]
    outline: list[list[float]]


class ColouredLink(PictureModel):
    """A coloured link by its number from the driver's mark, and its colour."""

    link: int
    colour: str
    meets: str


class ChainPicture(PictureModel):
    """A chain. ``mark_links`` runs from the driver's marked tooth to where the chain leaves it, at
    the service position.

    ``back`` is the path once the crank has been turned back through ``lash_deg`` (crank degrees,
    this chain's own).
    """

    part: str
    name: str
    plane: str
    bank: str | None
    is_second_bank: bool
    links: int
    pitch_mm: float
    is_belt: bool
    driver_shaft: str
    links_per_crank_deg: float
    mark_links: float
    forward: list[Piece]
    back: list[Piece]
    lash_deg: float
    coloured: list[ColouredLink]


class WheelPicture(PictureModel):
    """A sprocket, pulley or gear."""

    part: str
    shaft: str
    kind: str
    name: str
    plane: str
    x: float
    y: float
    radius: float
    teeth: int
    mark_clock_deg: float
    clock_per_crank: float
    role: str | None
    phaser: str | None
    phaser_name: str | None
    travel_clock_deg: float
    row: int
    label: str


class FacePicture(PictureModel):
    """A guide or arm as the middle line of its rail, a tensioner as end and mouth of its body and
    tip of its plunger; forwards and turned back.

    ``liner_mm`` is what is left of the liner's thickness, ``liner`` its middle line (forwards) and
    ``liner_back``; ``notch_mm`` the distance of a tensioner's ratchet notches, where it has any.
    """

    part: str
    name: str
    kind: str
    chain: str
    plane: str
    bank: str | None
    is_second_bank: bool
    forward: list[list[float]]
    back: list[list[float]]
    liner: list[list[float]] = []
    liner_back: list[list[float]] = []
    liner_mm: float | None = None
    pivot: list[float] | None = None
    notch_mm: float | None = None


class MarkPicture(PictureModel):
    """A mark on a wheel and where it stands."""

    id: str
    name: str
    wheel: str
    form: str
    is_timing: bool
    clock_deg: float
    at_deg: float
    meets: str | None
    purpose: str | None


class ShaftPicture(PictureModel):
    """Crank degrees: how much later it stands than the book says, and its lash when the crank is
    turned back.
    """

    id: str
    name: str
    kind: str
    late_deg: float
    lash_deg: float


class DrivePicture(PictureModel):
    """A whole drive. ``label`` says which engine this is: as the book has it, as worn (and how
    exaggerated), a tooth off.
    """

    engine: str
    label: str
    service_deg: float
    planes: list[Plane]
    chains: list[ChainPicture]
    wheels: list[WheelPicture]
    faces: list[FacePicture]
    marks: list[MarkPicture]
    shafts: list[ShaftPicture]


def shortened(picture: DrivePicture) -> str:
    """A picture as JSON with no more decimals than a screen shows, to be shipped in a file."""
    return json.dumps(_rounded(picture.model_dump()), separators=(",", ":"), ensure_ascii=False)


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, 4)
    if isinstance(value, dict):
        return {k: _rounded(v) for k, v in cast(dict[str, Any], value).items()}
    return [_rounded(v) for v in cast(list[Any], value)] if isinstance(value, list) else value
