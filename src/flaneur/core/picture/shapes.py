"""What a drive picture is made of: models of what is drawn; millimetres and degrees."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.drive.outline import Piece


class PictureModel(BaseModel):
    """What a picture is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class Plane(PictureModel):
    """One end of the engine: a box around what is drawn there (left, low, width, height)."""

    id: str
    seen_from: str
    running_direction: str
    box: list[float]


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
    travel_clock_deg: float
    row: int
    label: str


class FacePicture(PictureModel):
    """A guide or arm as a line, a tensioner as end and mouth of its body and tip of its plunger;
    forwards and turned back.
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
