"""The drive face: the engine seen from the chain end, as outlines in millimetres."""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.loop import Disc, Path
from flaneur.core.drive.train import DriveTrain


class FaceModel(BaseModel):
    model_config = ConfigDict(frozen=True)


class FaceLine(FaceModel):
    """A chain (closed) or a guide face (open) as points, x right and y up, millimetres."""

    part: str
    kind: str
    name: str
    bank: str | None
    closed: bool
    points: list[list[float]]


class FaceDisc(FaceModel):
    """A sprocket; ``solid`` marks intake and idlers drawn filled, exhaust is drawn open."""

    part: str
    shaft: str
    name: str
    x: float
    y: float
    radius: float
    mark_clock_deg: float
    role: str | None
    phaser: str | None


class FaceBox(FaceModel):
    """Lower left corner and size of what is drawn, millimetres, y up."""

    x: float
    y: float
    width: float
    height: float


class DriveFace(FaceModel):
    """Everything drawn, with the box it fits in."""

    seen_from: str
    running_direction: str
    box: FaceBox
    lines: list[FaceLine]
    discs: list[FaceDisc]


def drive_face(book: EngineBook) -> DriveFace:
    """Outlines of a book's drive in its new state."""
    train = DriveTrain(book)
    lines: list[FaceLine] = []
    discs: list[FaceDisc] = []
    for chain, drive in train.chains.items():
        path = drive.book_path
        bank = _bank(book, chain)
        lines.append(FaceLine(part=chain, kind="chain", name=drive.chain.name, bank=bank, closed=True, points=_outline(path)))
        for i, disc in enumerate(path.discs):
            if disc.teeth:
                sprocket = book.sprockets[disc.id]
                shaft = book.shafts[sprocket.shaft]
                discs.append(
                    FaceDisc(
                        part=disc.id,
                        shaft=sprocket.shaft,
                        name=sprocket.name,
                        x=disc.x,
                        y=disc.y,
                        radius=disc.radius,
                        mark_clock_deg=sprocket.mark_clock_deg,
                        role=shaft.role,
                        phaser=book.phaser_of(sprocket.shaft),
                    )
                )
            else:
                face = book.guides.get(disc.id) or book.arms[disc.id]
                kind = "arm" if disc.id in book.arms else "guide"
                lines.append(FaceLine(part=disc.id, kind=kind, name=face.name, bank=bank, closed=False, points=_arc(path, i, 7.0)))
        arm = drive.arm
        tensioner = drive.tensioner
        heading = math.radians(90 - tensioner.direction_clock_deg)
        x, y = tensioner.pad_mm
        back = [x - 30 * math.cos(heading), y - 30 * math.sin(heading)]
        lines.append(FaceLine(part=arm.tensioner, kind="tensioner", name=tensioner.name, bank=bank, closed=False, points=[back, [x, y]]))
    points = [p for line in lines for p in line.points] + [[d.x + s * d.radius, d.y + s * d.radius] for d in discs for s in (-1, 1)]
    left, right = min(p[0] for p in points) - 14, max(p[0] for p in points) + 14
    low, high = min(p[1] for p in points) - 14, max(p[1] for p in points) + 14
    return DriveFace(
        seen_from=book.drive_plane.seen_from,
        running_direction=book.drive_plane.running_direction,
        box=FaceBox(x=left, y=low, width=right - left, height=high - low),
        lines=lines,
        discs=discs,
    )


def _bank(book: EngineBook, chain: str) -> str | None:
    banks = {book.shafts[book.sprockets[s].shaft].bank for s in book.chains[chain].loop if s in book.sprockets} - {None}
    return next(iter(banks)) if len(banks) == 1 else None


def _on(disc: Disc, angle: float, outward: float = 0.0) -> list[float]:
    r = disc.radius - outward
    return [round(disc.x + r * math.cos(angle), 2), round(disc.y + r * math.sin(angle), 2)]


def _arc(path: Path, i: int, inset: float = 0.0) -> list[list[float]]:
    disc = path.discs[i]
    leave = path.headings[i] + disc.wrap * math.pi / 2
    arrive = leave + disc.wrap * path.turns[i]
    steps = max(2, int(abs(path.turns[i]) / 0.12) + 2)
    return [_on(disc, arrive + (leave - arrive) * k / (steps - 1), inset) for k in range(steps)]


def _outline(path: Path) -> list[list[float]]:
    return [point for i in range(len(path.discs)) for point in _arc(path, i)]
