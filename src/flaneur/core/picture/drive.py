"""The drive face as a picture that turns: path geometry and rates, so that a screen only has to
evaluate them.

Millimetres, x right and y up in the plane's own view. Clock positions are degrees clockwise from
twelve at the service position; ``clock_per_crank`` is by how much one moves for a degree of the
crank (clockwise positive).
"""

from math import cos, dist, pi, sin

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.arm import clock_to_heading
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.drive.lash import chain_lash_deg, shaft_lash_deg, stop_mm
from flaneur.core.drive.loop import Path
from flaneur.core.drive.outline import contact_angles, on_disc, pieces
from flaneur.core.drive.train import DriveTrain
from flaneur.core.faults.model import Faults
from flaneur.core.picture.shapes import (
    ChainPicture,
    ColouredLink,
    DrivePicture,
    FacePicture,
    MarkPicture,
    Plane,
    ShaftPicture,
)
from flaneur.core.picture.wheels import (
    bank_of,
    box_of,
    is_second,
    outline_of,
    wheel_pictures,
)

RAIL_MM = 11.0
CHAIN_EDGE_OF_PITCH = 0.39
OVERHANG_MM = 22.0
BODY_DRAWN_MM = 24.0
ROLLER_DRAWN_MM = 6.0


def drive_picture(
    book: EngineBook, faults: Faults | None = None, label: str = "as the book has it"
) -> DrivePicture:
    """Draw a book's drive in a state of wear. Raises BookError when a loop cannot be closed in that
    state.
    """
    state = faults or Faults()
    train = DriveTrain(book)
    late, plungers = train.shaft_late_deg(state)
    lash = shaft_lash_deg(train, state)
    chains: list[ChainPicture] = []
    faces: list[FacePicture] = []
    for key, drive in train.chains.items():
        set_late = state.jumped_teeth.get(f"{key}/{drive.chain.driver}", 0)
        chain, parts = _chain(
            train, drive, train.wear_of(state, key), plungers.get(key, 0.0), set_late
        )
        chains.append(chain)
        faces += parts
    wheels = wheel_pictures(train)
    crank = {key for key, s in book.shafts.items() if s.kind == "crank"}
    outlines = {key: outline_of(key, wheels, faces, crank) for key in book.planes}
    return DrivePicture(
        engine=book.name,
        label=label,
        service_deg=book.service_position.crank_deg,
        planes=[
            Plane(
                id=key,
                seen_from=p.seen_from,
                running_direction=p.running_direction,
                box=box_of(outlines[key]),
                outline=outlines[key],
            )
            for key, p in book.planes.items()
        ],
        chains=chains,
        wheels=wheels,
        faces=faces,
        marks=[
            MarkPicture(
                id=key,
                name=m.name,
                wheel=m.wheel,
                form=m.form,
                is_timing=m.is_timing,
                clock_deg=m.clock_deg,
                at_deg=book.mark_at_deg(m),
                meets=m.meets,
                purpose=m.purpose,
            )
            for key, m in book.marks.items()
        ],
        shafts=[
            ShaftPicture(
                id=k, name=s.name, kind=s.kind, late_deg=late.get(k, 0.0), lash_deg=lash.get(k, 0.0)
            )
            for k, s in book.shafts.items()
        ],
    )


def _chain(
    train: DriveTrain, drive: ChainDrive, wear: ChainWear, plunger: float, set_late: int
) -> tuple[ChainPicture, list[FacePicture]]:
    book, n = train.book, drive.chain.links
    driver = book.sprockets[drive.chain.driver]
    path = drive.path(plunger, wear)
    held = stop_mm(drive, plunger) if drive.has_tensioner else 0.0
    turned = drive.path(held, wear)
    spare = n - path.links(drive.pitch_mm, wear.elongation)
    spare_back = n - turned.links(drive.pitch_mm, wear.elongation)
    bank = bank_of(book, drive.id)
    picture = ChainPicture(
        part=drive.id,
        name=drive.chain.name,
        plane=driver.plane,
        bank=bank,
        is_second_bank=is_second(book, bank),
        links=n,
        pitch_mm=drive.pitch_mm,
        is_belt=drive.is_belt,
        driver_shaft=driver.shaft,
        links_per_crank_deg=driver.teeth / 360.0 / train.crank_per_turn[driver.shaft],
        # A tooth late at the driver is the whole chain a link behind its mark.
        mark_links=drive.links_to_departure(drive.chain.driver) + set_late,
        # Pulled by the crank, what is to spare hangs where the chain leaves it; turned back, on the
        # other side.
        forward=pieces(path, drive.pitch_mm, wear.elongation, 0, spare),
        back=pieces(turned, drive.pitch_mm, wear.elongation, _tight_strand(turned), spare_back),
        lash_deg=chain_lash_deg(train, drive.id, wear),
        coloured=[
            ColouredLink(link=m.link, colour=m.colour, meets=m.meets)
            for m in drive.chain.marked_links
        ],
    )
    faces = [
        _face(train, drive, disc.id, (path, plunger), (turned, held), wear)
        for disc in path.discs
        if not disc.teeth
    ]
    if drive.has_tensioner:
        faces.append(
            FacePicture(
                part=drive.arm.tensioner,
                name=drive.tensioner.name,
                kind="tensioner",
                chain=drive.id,
                plane=driver.plane,
                bank=bank,
                is_second_bank=is_second(book, bank),
                forward=_plunger_line(drive, plunger),
                back=_plunger_line(drive, held),
                notch_mm=drive.tensioner.notch_mm,
            )
        )
    return picture, faces


def _tight_strand(path: Path) -> int:
    """The longest free strand between the last driven sprocket and the driver."""
    last = max(i for i, d in enumerate(path.discs) if d.teeth)
    return max(range(last, len(path.discs)), key=lambda i: path.strands_mm[i])


def _face(
    train: DriveTrain,
    drive: ChainDrive,
    part: str,
    forward: tuple[Path, float],
    back: tuple[Path, float],
    wear: ChainWear,
) -> FacePicture:
    """A guide or arm: its rail, which stays, and on it what is left of its liner."""
    book = train.book
    arm = book.arms.get(part)
    worn = arm or book.guides[part]
    left = max(0.0, worn.liner_mm - wear.of(part))
    edge = CHAIN_EDGE_OF_PITCH * drive.pitch_mm
    rail, liner = edge + left + RAIL_MM / 2, edge + left / 2
    bank = bank_of(book, drive.id)
    is_roller = drive.is_belt
    pivot = arm.pivot_mm if arm else None
    return FacePicture(
        part=part,
        name=worn.name,
        kind="arm" if arm else "guide",
        chain=drive.id,
        plane=book.sprockets[drive.chain.driver].plane,
        bank=bank,
        is_second_bank=is_second(book, bank),
        forward=_rail(drive, *forward, part, rail),
        back=_rail(drive, *back, part, rail) or _rail(drive, *forward, part, rail),
        liner=[] if is_roller else _touched(forward[0], part, liner),
        liner_back=[] if is_roller else _touched(back[0], part, liner),
        liner_mm=None if is_roller else left,
        pivot=list(pivot) if pivot else None,
    )


def _touched(path: Path, part: str, inset_mm: float) -> list[list[float]]:
    """A line along a face, ``inset_mm`` under the chain's middle, a little longer than it touches;
    a roller all the way round. Empty when the chain does not touch it.
    """
    try:
        i = path.index(part)
    except KeyError:
        return []
    disc = path.discs[i]
    if disc.is_smooth:
        return [list(on_disc(disc, k * pi / 18, ROLLER_DRAWN_MM)) for k in range(37)]
    reach, leave = contact_angles(path, i)
    ends = [disc.wrap * reach, disc.wrap * leave]
    ends = [max(ends) + OVERHANG_MM / disc.radius, min(ends) - OVERHANG_MM / disc.radius]
    steps = max(3, int((ends[0] - ends[1]) / 0.05) + 2)
    turned = [disc.wrap * (ends[0] + (ends[1] - ends[0]) * k / (steps - 1)) for k in range(steps)]
    return [list(on_disc(disc, angle, inset_mm)) for angle in turned]


def _rail(
    drive: ChainDrive, path: Path, plunger: float, part: str, inset_mm: float
) -> list[list[float]]:
    """The middle of a rail; an arm's from its pivot to where its tensioner presses."""
    line = _touched(path, part, inset_mm)
    arm = drive.book.arms.get(part)
    if line and arm and arm.pivot_mm:
        pivot, pad = list(arm.pivot_mm), _pad(drive, plunger)
        if dist(pivot, line[0]) > dist(pivot, line[-1]):
            line.reverse()
        line.insert(0, pivot)
        if dist(pad, pivot) > dist(line[-1], pivot):
            line.append(pad)
    return line


def _pad(drive: ChainDrive, plunger: float) -> list[float]:
    """Where the tip of the plunger stands."""
    heading = clock_to_heading(drive.tensioner.direction_clock_deg)
    out = plunger - drive.tensioner.book_plunger_mm
    return [
        drive.tensioner.pad_mm[0] + out * cos(heading),
        drive.tensioner.pad_mm[1] + out * sin(heading),
    ]


def _plunger_line(drive: ChainDrive, plunger: float) -> list[list[float]]:
    """End of the body, mouth of the body, and the tip of the plunger."""
    heading = clock_to_heading(drive.tensioner.direction_clock_deg)
    x, y = drive.tensioner.pad_mm
    mouth = drive.tensioner.book_plunger_mm + 2.0
    body = [[x - mm * cos(heading), y - mm * sin(heading)] for mm in (mouth + BODY_DRAWN_MM, mouth)]
    return [*body, _pad(drive, plunger)]
