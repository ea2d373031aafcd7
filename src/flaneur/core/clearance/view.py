"""Everything a technician asks about clearance, as one answer in figures and words."""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import LATE_DEG, Contacts
from flaneur.core.clearance.springs import jump
from flaneur.core.clearance.teeth import tooth_reaches
from flaneur.core.drive.train import DriveTrain

UNKNOWN = "unknown: treat as touching"
WHOLE_TURN = 360.0


class ClearanceModel(BaseModel):
    model_config = ConfigDict(frozen=True)


class ChainOff(ClearanceModel):
    """How far the crank may turn from the service position with a chain off and its cams standing still, degrees."""

    chain: str
    name: str
    cams: list[str]
    back_deg: float
    on_deg: float
    words: str


class CamJump(ClearanceModel):
    """What a cam does when its chain comes off at the service position; torque in running direction."""

    cam: str
    name: str
    torque_nm: float
    turn_cam_deg: float
    touches: list[str]
    words: str


class HoldingView(ClearanceModel):
    school: str
    name: str
    text: str
    jumps: list[CamJump]


class TeethView(ClearanceModel):
    """Teeth off until one valve row touches; ``room_mm`` at −3…3 teeth. None: not up to twelve teeth."""

    cam: str
    cam_name: str
    valves: str
    kind: str
    cylinder: int
    tooth_deg: float
    early: int | None
    late: int | None
    phased_early: int | None
    phased_late: int | None
    room_mm: list[float]


class RiskAt(ClearanceModel):
    """From this crank angle on, and until the next one listed, these cylinders' valves can meet their pistons."""

    crank_deg: float
    cylinders: list[int]


class ClearanceView(ClearanceModel):
    """``is_known`` false means the book has no data: everything is to be treated as touching.

    ``loose_windows`` are crank ranges of one turn in which every cam may be loose.
    """

    is_known: bool
    words: str
    source: str
    service_deg: float
    loose_windows: list[list[float]]
    at_service: list[str]
    risk: list[RiskAt]
    chains_off: list[ChainOff]
    schools: list[HoldingView]
    teeth: list[TeethView]


class RowOutline(ClearanceModel):
    """A lateness at which something touches: stretches of crank degrees."""

    late_deg: float
    touches: list[list[int]]


class TouchMap(ClearanceModel):
    """``cam`` None means any cam. ``rows`` holds the touching stretches, lateness −360…360° by 3, crank by 1°."""

    is_known: bool
    cam: str | None
    rows: list[RowOutline]


def touch_map(book: EngineBook, cam: str | None = None) -> TouchMap:
    """The touch map as stretches a drawing can fill; without clearance data, unknown."""
    if book.clearance is None:
        return TouchMap(is_known=False, cam=cam, rows=[])
    touched = Contacts(book).touch_map(cam)
    rows: list[RowOutline] = []
    for late, row in zip(LATE_DEG, touched, strict=True):
        marks = [i for i in range(721) if (i < 720 and bool(row[i])) != (i > 0 and bool(row[i - 1]))]
        rows.append(RowOutline(late_deg=float(late), touches=[[a, b] for a, b in zip(marks[::2], marks[1::2], strict=True)]))
    return TouchMap(is_known=True, cam=cam, rows=rows)


def clearance_view(book: EngineBook) -> ClearanceView:
    """Windows, risks, ranges, teeth and jumps of a book; unknown throughout where it has no clearance data."""
    here = book.service_position.crank_deg
    if book.clearance is None:
        return ClearanceView(
            is_known=False,
            words=f"Clearance {UNKNOWN}. The book gives no piston and valve data.",
            source="",
            service_deg=here,
            loose_windows=[],
            at_service=[],
            risk=[],
            chains_off=[],
            schools=[],
            teeth=[],
        )
    contacts, train = Contacts(book), DriveTrain(book)
    windows = contacts.loose_windows()
    risk = contacts.at_risk(here)
    return ClearanceView(
        is_known=True,
        words=window_words(windows),
        source=book.clearance.source,
        service_deg=here,
        loose_windows=[[a, b] for a, b in windows],
        at_service=[f"cylinder {c}: {' and '.join(kinds)} valves can meet the piston" for c, kinds in risk.items()],
        risk=risk_by_crank(contacts),
        chains_off=[_chain_off(contacts, train, chain) for chain in train.chains if train.cams_of(chain)],
        schools=_schools(contacts),
        teeth=[
            TeethView(
                cam=t.cam,
                cam_name=book.shafts[t.cam].name,
                valves=t.row.name,
                kind=t.row.group.kind,
                cylinder=t.row.cylinder,
                tooth_deg=round(t.tooth_deg, 3),
                early=t.early,
                late=t.late,
                phased_early=t.phased_early,
                phased_late=t.phased_late,
                room_mm=list(t.room_mm),
            )
            for t in tooth_reaches(contacts, train)
        ],
    )


def window_words(windows: list[tuple[float, float]]) -> str:
    """The crank ranges in which every cam may be loose, in a sentence; whole degrees, rounded inwards."""
    if not windows:
        return "Nowhere may all cams be loose: at every crank angle some piston stands high enough to meet a fully open valve."
    if windows[0][1] - windows[0][0] >= WHOLE_TURN:
        return "Valves and pistons do not meet at any crank angle, whatever the cams do."
    spans = ", ".join(f"{math.ceil(a)}° to {math.floor(b) % 360}°" for a, b in windows)
    return f"All cams may be loose with the crank at {spans} of a turn."


def risk_by_crank(contacts: Contacts) -> list[RiskAt]:
    """Cylinders at risk by crank angle over one turn, one line for each change.

    A line holds for whole degrees, so that one at risk anywhere from one to the next counts for all of it.
    """
    result: list[RiskAt] = []
    for crank in range(360):
        cylinders = sorted({*contacts.at_risk(float(crank)), *contacts.at_risk(float(crank + 1))})
        if not result or result[-1].cylinders != cylinders:
            result.append(RiskAt(crank_deg=float(crank), cylinders=cylinders))
    return result


def _chain_off(contacts: Contacts, train: DriveTrain, chain: str) -> ChainOff:
    book, cams = contacts.book, train.cams_of(chain)
    back, on = contacts.turn_range(book.service_position.crank_deg, cams)
    if on >= WHOLE_TURN and back <= -WHOLE_TURN:
        words = "the crank may turn freely while these cams stand"
    elif back == on == 0:
        words = "do not turn the crank at all: a valve already stands where its piston comes"
    else:
        words = f"back by {math.floor(-back)}° or on by {math.floor(on)}° and no further, while these cams stand still"
    names = [book.shafts[c].name for c in cams]
    return ChainOff(chain=chain, name=book.chains[chain].name, cams=names, back_deg=back, on_deg=on, words=words)


def _schools(contacts: Contacts) -> list[HoldingView]:
    book = contacts.book
    assert book.clearance is not None
    nothing = HoldingView(
        school="nothing", name="Nothing holds them", text="What the springs do by themselves.", jumps=_jumps(contacts, None)
    )
    return [
        nothing,
        *(HoldingView(school=h.school, name=h.name, text=h.text, jumps=_jumps(contacts, i)) for i, h in enumerate(book.clearance.holding)),
    ]


def _jumps(contacts: Contacts, holding: int | None) -> list[CamJump]:
    book, engine = contacts.book, contacts.engine
    result: list[CamJump] = []
    for cam in book.cams:
        found = jump(contacts, cam, book.service_position.crank_deg, None if holding is None else engine.holding[holding])
        if 0 < abs(found.turn_deg) < 1:
            words = f"is pushed with {abs(found.torque_nm):.1f} N·m but comes to rest within a degree"
        elif found.turn_deg:
            way = "on in running direction" if found.turn_deg > 0 else "back against running direction"
            words = f"jumps {way}, {abs(found.turn_deg):.0f}° of the cam, at first with {abs(found.torque_nm):.1f} N·m"
            words += f"; meets: {', '.join(found.touches)}" if found.touches else "; touches nothing with the crank here"
        elif abs(found.torque_nm) > engine.cam_friction_nm:
            words = f"stays; the holder carries {abs(found.torque_nm):.1f} N·m"
        else:
            words = "stays by itself: its springs push it no harder than friction holds"
        result.append(
            CamJump(
                cam=cam,
                name=book.shafts[cam].name,
                torque_nm=round(found.torque_nm, 2),
                turn_cam_deg=found.turn_deg,
                touches=list(found.touches),
                words=words,
            )
        )
    return result
