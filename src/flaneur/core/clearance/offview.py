"""What is said of chains off: which cams swing, what they may meet, how far the crank may turn."""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.clearance.loosened import MOST_DEG, Loosened, Loosening, Tight
from flaneur.core.clearance.swing import Held, Swing, held_by


class OffModel(BaseModel):
    """What the views of chains off are made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class SwingView(OffModel):
    """What cams that move as one do when let go: torque in running direction, degrees of the cam.

    ``turn_cam_deg`` with the book's own friction and phasers parked; ``back_cam_deg`` (≤ 0) and
    ``on_cam_deg`` (≥ 0) how far they may get, friction from half to twice the book's and all else
    as unsure as the reserve says.
    """

    cams: list[str]
    name: str
    torque_nm: float
    turn_cam_deg: float
    back_cam_deg: float
    on_cam_deg: float
    is_held: bool
    may_move: bool
    meets: list[Tight]
    words: str


class OffView(OffModel):
    """Chains off at a crank angle. ``back_deg`` (≤ 0) and ``on_deg`` (≥ 0) are whole degrees the
    crank may turn.
    """

    chains: list[str]
    name: str
    crank_deg: float
    cams: list[str]
    held_by: str
    phasers_parked: bool
    swings: list[SwingView]
    back_deg: float
    on_deg: float
    limits: list[Tight]
    words: str
    assumes: str


def off_view(
    loosening: Loosening,
    chains: tuple[str, ...],
    crank_deg: float,
    holding: int | None = None,
    held: list[str] | None = None,
) -> OffView:
    """Chains off, held by one of the book's ways or by named cams. Raises BookError for what the
    book lacks.
    """
    contacts, book = loosening.contacts, loosening.contacts.book
    way = held_by(contacts, holding)
    kept = Held(way.cams | frozenset(held or []), way.followers_out)
    found = loosening.without(chains, crank_deg, kept)
    names = [book.chains[c].name for c in chains]
    cams = [cam for swing in found.swings for cam in swing.cams]
    held_words = (
        contacts.engine.holding[holding].name
        if holding is not None
        else ", ".join(book.shafts[c].name for c in held or [])
    )
    return OffView(
        chains=list(chains),
        name=" and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)
        or "No chain",
        crank_deg=crank_deg,
        cams=[book.shafts[c].name for c in cams],
        held_by=held_words or "Nothing holds them",
        phasers_parked=loosening.parked,
        swings=[
            _swing_view(loosening, swing, met)
            for swing, met in zip(found.swings, found.met, strict=True)
        ],
        back_deg=found.back_deg,
        on_deg=found.on_deg,
        limits=list(dict.fromkeys(limit for limit in found.limits if limit)),
        words=_range_words(found, contacts.reserve_mm),
        assumes=_assumes(loosening),
    )


def _assumes(loosening: Loosening) -> str:
    phasers = (
        ""
        if not loosening.contacts.book.phasers
        else ", phasers seen locked in park"
        if loosening.parked
        else ", phasers anywhere in their travel"
    )
    unsure = loosening.contacts.cam_unsure_deg
    return (
        f"Every cam within {unsure:g}° of the book when let go, no chain jumped or worn further; "
        f"then anywhere along its swing, nobody turning it{phasers}; head, valves and pistons as "
        "the book has them."
    )


def _range_words(found: Loosened, kept: float) -> str:
    if not found.swings:
        return "no cam comes free: the crank turns with its cams"
    back, on = int(-found.back_deg), int(found.on_deg)
    if back >= MOST_DEG and on >= MOST_DEG:
        return (
            f"the crank may turn freely: nothing comes within {kept:g} mm in a whole turn, "
            "wherever these cams swing"
        )
    limits = [limit for limit in found.limits if limit]
    is_still = not back and not on
    nearest = " and ".join(dict.fromkeys(limit.what for limit in limits))
    why = f"{nearest} {'' if is_still else 'then '}within {kept:g} mm"
    if any(limit.room_mm is None for limit in limits):
        why = "unknown whether valves meet each other: treat as touching"
    if is_still:
        return f"do not turn the crank at all ({why})"
    return f"back by {back}° or on by {on}° and no further ({why})"


def _swing_view(loosening: Loosening, swing: Swing, met: list[Tight]) -> SwingView:
    book = loosening.contacts.book
    names = [book.shafts[cam].name for cam in swing.cams]
    may_move = swing.back_deg < 0 or swing.on_deg > 0
    words = _swing_words(swing, may_move)
    if len(names) > 1:
        words = f"tied to each other, {words}"
    if met:
        words += (
            "; may meet: "
            f"{', '.join(t.what + (' (unknown)' if t.room_mm is None else '') for t in met)}"
        )
    elif may_move:
        words += (
            f"; keeps {loosening.contacts.reserve_mm:g} mm from everything on the way with "
            "the crank here"
        )
    return SwingView(
        cams=list(swing.cams),
        name=" and ".join(names),
        torque_nm=round(swing.torque_nm, 2),
        turn_cam_deg=round(swing.turn_deg, 1),
        back_cam_deg=round(swing.back_deg, 1),
        on_cam_deg=round(swing.on_deg, 1),
        is_held=swing.is_held,
        may_move=may_move,
        meets=met,
        words=words,
    )


def _swing_words(swing: Swing, may_move: bool) -> str:
    push = abs(swing.torque_nm)
    if swing.is_held:
        return f"stays while it is held; the holder carries {push:.1f} N·m"
    if not may_move:
        return (
            f"stays by itself: its springs push with {push:.1f} N·m, less than half of what "
            f"friction holds ({swing.friction_nm:.1f} N·m)"
        )
    ends = ((-swing.back_deg, "back"), (swing.on_deg, "on"))
    ways = [f"{math.ceil(far)}° {way}" for far, way in ends if far > 0]
    far = f"may swing as far as {' or '.join(ways)} (degrees of the cam)"
    if swing.turn_deg:
        way = "on in running direction" if swing.turn_deg > 0 else "back against running direction"
        sure = "jumps" if swing.surely else "most likely jumps"
        return f"{sure} {way}, some {abs(swing.turn_deg):.0f}°, at first with {push:.1f} N·m; {far}"
    return (
        f"may stay or jump: {push:.1f} N·m against a friction of about {swing.friction_nm:.1f} "
        f"N·m; {far}"
    )
