"""Which bolt goes where: the places of a part's fasteners with their lengths, ready to be drawn."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain


class BoltModel(BaseModel):
    """What the picture is made of: millimetres, x right and y up."""

    model_config = ConfigDict(frozen=True)


class Bolt(BoltModel):
    """A bolt at its place, by its number in the order of tightening; how long it is, None where the
    book does not say; whether it is one of the long ones.
    """

    number: int
    x_mm: float
    y_mm: float
    length_mm: float | None
    is_long: bool


class Around(BoltModel):
    """A wheel behind the part, for finding one's way: its centre and pitch radius."""

    name: str
    x_mm: float
    y_mm: float
    radius_mm: float


class BoltMap(BoltModel):
    """The fasteners of one kind on their part, and what lies behind it."""

    fastener: str
    name: str
    holes: str
    bolts: list[Bolt]
    around: list[Around]


def bolt_maps(book: EngineBook, component: str) -> list[BoltMap]:
    """A picture for each kind of fastener of a component whose places the book gives."""
    found: list[BoltMap] = []
    for key in book.components[component].fasteners:
        fastener = book.fasteners[key]
        there, lengths = fastener.places, fastener.lengths_mm
        if there is None:
            continue
        bolts = [
            Bolt(
                number=i,
                x_mm=x,
                y_mm=y,
                length_mm=lengths[-1 if i in there.long else 0] if lengths else None,
                is_long=i in there.long,
            )
            for i, (x, y) in enumerate(there.at_mm, 1)
        ]
        found.append(
            BoltMap(
                fastener=key,
                name=fastener.name,
                holes=fastener.holes or "",
                bolts=bolts,
                around=_around(book, there.plane) if there.plane else [],
            )
        )
    return found


def _around(book: EngineBook, plane: str) -> list[Around]:
    """The wheels of a drive plane, each once, the largest of those on one spot."""
    wheels: dict[tuple[float, float], Around] = {}
    for chain in DriveTrain(book).chains.values():
        for key in chain.chain.loop:
            wheel = book.sprockets.get(key)
            if wheel is None or wheel.plane != plane:
                continue
            x, y = wheel.at_mm
            here = Around(name=wheel.name, x_mm=x, y_mm=y, radius_mm=chain.radius_mm(key))
            if (x, y) not in wheels or wheels[x, y].radius_mm < here.radius_mm:
                wheels[x, y] = here
    return list(wheels.values())
