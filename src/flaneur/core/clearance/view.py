"""Everything a technician asks about clearance, as one answer in figures and words."""

from itertools import groupby
from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.facing import distinct, pairs
from flaneur.core.clearance.off import UNKNOWN, reserve_words
from flaneur.core.clearance.teeth import MOST_TEETH, tooth_reaches
from flaneur.core.clearance.touch import LATE_DEG
from flaneur.core.clearance.touch import touch_map as touching
from flaneur.core.drive.train import DriveTrain

WHOLE_TURN = 360


class ClearanceModel(BaseModel):
    """What the clearance views are made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class ReserveView(ClearanceModel):
    """What is kept between what is said to be safe and a contact."""

    room_mm: float
    crank_deg: float
    cam_deg: float
    words: str


class HeadsView(ClearanceModel):
    """Valves of one cylinder against each other, cams loose. ``state`` none: one cam opens both
    kinds. ``may_meet`` when they can, or nobody knows.
    """

    state: Literal["none", "clear", "meet", "unknown"]
    may_meet: bool
    least_mm: float | None
    words: str


class HoldingView(ClearanceModel):
    """A way of holding cams, by its place in the book."""

    index: int
    school: str
    name: str
    text: str


class TeethView(ClearanceModel):
    """Teeth off until one valve row touches; rooms at −3…3 teeth, None unknown. None: not up to
    twelve teeth.
    """

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
    room_mm: list[float | None]
    phased_room_mm: list[float | None]
    meets: str


class RiskAt(ClearanceModel):
    """From this crank angle on, and until the next one listed, these cylinders' valves can meet
    their pistons.
    """

    crank_deg: float
    cylinders: list[int]
    look: Literal["safe", "risk", "unknown"]
    title: str
    words: str


class TeethKind(ClearanceModel):
    """Teeth off until valves of one kind touch, over all rows of a cam: where rows differ, the
    worst. ``parked`` is empty where its phaser changes nothing.
    """

    cam_name: str
    kind: str
    is_near: bool
    early: str
    late: str
    parked: str
    words: str


class ClearanceView(ClearanceModel):
    """``is_known`` false means the book has no data: everything is to be treated as touching.

    ``loose_windows`` are crank stretches of one turn, whole degrees, in which every cam may be
    loose; in ``piston_windows`` no valve reaches a piston, but valves of one cylinder may still
    meet each other.
    """

    is_known: bool
    words: str
    source: str
    service_deg: float
    reserve: ReserveView | None
    loose_windows: list[list[int]]
    piston_windows: list[list[int]]
    heads: HeadsView
    at_service: list[str]
    risk: list[RiskAt]
    chains: dict[str, str]
    holdings: list[HoldingView]
    has_phasers: bool
    teeth: list[TeethView]
    teeth_kinds: list[TeethKind]


class RowOutline(ClearanceModel):
    """A lateness at which something touches: stretches of crank degrees; ``near`` those within the
    reserve, contact in it.
    """

    late_deg: float
    touches: list[list[int]]
    near: list[list[int]]


class TouchMap(ClearanceModel):
    """``cam`` None means any cam. ``rows`` hold stretches, lateness −360…360° by 3, crank by 1°; a
    cell holds all of itself.
    """

    is_known: bool
    cam: str | None
    rows: list[RowOutline]


def touch_map(book: EngineBook, cam: str | None = None) -> TouchMap:
    """The touch map as stretches a drawing can fill; without clearance data, unknown."""
    if book.clearance is None:
        return TouchMap(is_known=False, cam=cam, rows=[])
    touched, near = touching(Contacts(book), cam)
    rows = [
        RowOutline(late_deg=float(late), touches=_stretches(touched[i]), near=_stretches(near[i]))
        for i, late in enumerate(LATE_DEG)
    ]
    return TouchMap(is_known=True, cam=cam, rows=rows)


def _stretches(row: np.ndarray) -> list[list[int]]:
    ends = np.flatnonzero(np.diff(np.concatenate([[False], row, [False]]).astype(np.int8)))
    return [[int(a), int(b)] for a, b in zip(ends[::2], ends[1::2], strict=True)]


def reserve_view(contacts: Contacts) -> ReserveView:
    """What is kept in every figure between safe and a contact."""
    return ReserveView(
        room_mm=contacts.reserve_mm,
        crank_deg=contacts.crank_unsure_deg,
        cam_deg=contacts.cam_unsure_deg,
        words=reserve_words(contacts),
    )


def heads_view(contacts: Contacts) -> HeadsView:
    """Whether valves of one cylinder can meet each other when their cams are loose."""
    found = distinct(pairs(contacts))
    if not found:
        return HeadsView(
            state="none",
            may_meet=False,
            least_mm=None,
            words="One cam opens all valves of a cylinder: they keep their places to each other.",
        )
    if not all(pair.is_known for pair in found):
        return _unknown_heads()
    least = min(pair.loose_mm for pair in found)
    if least < contacts.reserve_mm:
        words = (
            "Valves of one cylinder can meet each other when both cams of a head are loose: "
            "hold one of them."
        )
        return HeadsView(state="meet", may_meet=True, least_mm=round(least, 2), words=words)
    return HeadsView(
        state="clear",
        may_meet=False,
        least_mm=round(least, 2),
        words=f"Valves of one cylinder keep {least:.1f} mm from each other.",
    )


def _unknown_heads() -> HeadsView:
    words = f"Valves of one cylinder may meet each other: {UNKNOWN}."
    return HeadsView(state="unknown", may_meet=True, least_mm=None, words=words)


def windows_of(contacts: Contacts, heads: HeadsView) -> tuple[list[list[int]], list[list[int]]]:
    """Stretches in which every cam may be loose, and those in which at least no valve reaches a
    piston.
    """
    windows = [list(window) for window in contacts.piston_windows]
    return ([] if heads.may_meet else windows), windows


def clearance_view(book: EngineBook) -> ClearanceView:
    """Windows, risks, ranges, teeth and jumps of a book; unknown throughout where it has no
    clearance data.
    """
    here = book.service_position.crank_deg
    if book.clearance is None:
        return ClearanceView(
            is_known=False,
            words=f"Clearance {UNKNOWN}. The book gives no piston and valve data.",
            source="",
            service_deg=here,
            reserve=None,
            loose_windows=[],
            piston_windows=[],
            heads=_unknown_heads(),
            at_service=[],
            risk=[],
            chains={},
            holdings=[],
            has_phasers=bool(book.phasers),
            teeth=[],
            teeth_kinds=[],
        )
    contacts, train = Contacts(book), DriveTrain(book)
    teeth = teeth_views(contacts, train)
    heads = heads_view(contacts)
    loose, piston = windows_of(contacts, heads)
    chains = {key: book.chains[key].name for key in train.chains if train.cams_of(key)}
    return ClearanceView(
        is_known=True,
        words=window_words(contacts, heads),
        source=book.clearance.source,
        service_deg=here,
        reserve=reserve_view(contacts),
        loose_windows=loose,
        piston_windows=piston,
        heads=heads,
        at_service=[
            f"cylinder {c}: {' and '.join(kinds)} valves can meet the piston"
            for c, kinds in contacts.at_risk(here).items()
        ],
        risk=risk_by_crank(contacts, heads),
        chains=chains,
        holdings=[
            HoldingView(index=i, school=h.school, name=h.name, text=h.text)
            for i, h in enumerate(book.clearance.holding)
        ],
        has_phasers=bool(book.phasers),
        teeth=teeth,
        teeth_kinds=teeth_kinds(teeth),
    )


def teeth_views(contacts: Contacts, train: DriveTrain) -> list[TeethView]:
    """Teeth until valves touch, one line per valve row."""
    return [
        TeethView(
            cam=t.cam,
            cam_name=contacts.book.shafts[t.cam].name,
            valves=t.row.name,
            kind=t.row.group.kind,
            cylinder=t.row.cylinder,
            tooth_deg=round(t.tooth_deg, 3),
            early=t.early,
            late=t.late,
            phased_early=t.phased_early,
            phased_late=t.phased_late,
            room_mm=list(t.room_mm),
            phased_room_mm=list(t.phased_room_mm),
            meets=t.meets,
        )
        for t in tooth_reaches(contacts, train)
    ]


def window_words(contacts: Contacts, heads: HeadsView) -> str:
    """The crank ranges in which every cam may be loose, in a sentence; whole degrees, rounded
    inwards.
    """
    windows = contacts.piston_windows
    says = f" {heads.words}" if heads.may_meet else ""
    if not windows:
        return (
            "Nowhere may all cams be loose: at every crank angle some piston stands within the "
            "reserve of a fully open valve."
        )
    if windows[0][1] - windows[0][0] >= WHOLE_TURN:
        never = "Valves and pistons do not meet at any crank angle, whatever the cams do."
        return never + says
    spans = ", ".join(f"{a}° to {b % 360}°" for a, b in windows)
    if says:
        return f"No valve reaches a piston with the crank at {spans} of a turn.{says}"
    return f"All cams may be loose with the crank at {spans} of a turn."


def risk_by_crank(contacts: Contacts, heads: HeadsView) -> list[RiskAt]:
    """Cylinders at risk by crank angle over one turn, one line for each change.

    A line holds for whole degrees, so that one at risk anywhere from one to the next counts for all
    of it.
    """
    whole = np.arange(360.0)
    reached = contacts.reached_when_loose(whole, whole + 1)
    cylinders = [row.cylinder for row in contacts.rows]
    at = [
        (crank, tuple(sorted({c for c, hit in zip(cylinders, reached, strict=True) if hit[crank]})))
        for crank in range(360)
    ]
    return [
        _risk_at(contacts, heads, float(next(iter(run))[0]), list(cylinders))
        for cylinders, run in groupby(at, key=lambda pair: pair[1])
    ]


def _risk_at(
    contacts: Contacts, heads: HeadsView, crank_deg: float, cylinders: list[int]
) -> RiskAt:
    """A line of the table in words: what loose cams may meet from this angle on."""
    look: Literal["safe", "risk", "unknown"] = "safe"
    title = "Cams may be loose here."
    words = "No piston stands high enough to meet a fully open valve."
    if cylinders:
        look, title = "risk", "Cams must not be loose here:"
        at = ", ".join(map(str, cylinders))
        words = f"cylinder {at} at risk. {window_words(contacts, heads)}"
    elif heads.may_meet:
        look, title = "unknown", "No valve reaches a piston here."
        words = heads.words
    return RiskAt(crank_deg=crank_deg, cylinders=cylinders, look=look, title=title, words=words)


def teeth_kinds(teeth: list[TeethView]) -> list[TeethKind]:
    """The views of each cam and kind of valve put together."""
    kinds: dict[tuple[str, str], list[TeethView]] = {}
    for view in teeth:
        kinds.setdefault((view.cam, view.kind), []).append(view)
    return [_teeth_kind(rows) for rows in kinds.values()]


def _teeth_kind(rows: list[TeethView]) -> TeethKind:
    first = rows[0]
    early = _least([r.phased_early for r in rows])
    late = _least([r.phased_late for r in rows])
    parked = (_least([r.early for r in rows]), _least([r.late for r in rows]))
    meets = " and ".join(dict.fromkeys(r.meets for r in rows if r.meets))
    at = ", ".join(str(r.cylinder) for r in rows)
    return TeethKind(
        cam_name=first.cam_name,
        kind=first.kind,
        is_near=1 in (early, late),
        early=_so_many(early),
        late=_so_many(late),
        parked=f"early {_so_many(parked[0])}, late {_so_many(parked[1])}"
        if parked != (early, late)
        else "",
        words=f"{first.tooth_deg:.1f}° of the crank a tooth; cylinder {at}"
        + (f"; meet {meets}." if meets else "."),
    )


def _least(found: list[int | None]) -> int | None:
    return min((n for n in found if n is not None), default=None)


def _so_many(teeth: int | None) -> str:
    if teeth is None:
        return f"not up to {MOST_TEETH}"
    return f"{teeth} {'tooth' if teeth == 1 else 'teeth'}"
