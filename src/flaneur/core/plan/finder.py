"""Bringing the engine to the book's position: how far, which stroke, how to tell, what misleads."""

import re

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.marks import Mark
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.port import port_turn
from flaneur.core.drive.train import DriveTrain, clock_per_crank
from flaneur.core.errors import PlanError
from flaneur.core.wording import clock_words, within

CYCLE, TURN, STROKE = 720.0, 360.0, 180.0
STROKES = ("expansion", "exhaust", "intake", "compression")
RISING = {"exhaust", "compression"}
MOST_LEAN_DEG = 60.0
PINS = ("pin", "peg")
FEEL = " Feel for its hole with pins of rising size, turning on a degree at a time."
ROD = "Rod"
ROD_TRAP = "Take it out before turning on: it jams and bends a valve or the rod."
TOOL_TRAP = (
    "It may go in one turn off, or at another hole: the mark must agree. It does not hold against "
    "a bolt being undone."
)
_ANGLE = re.compile(
    r"(?P<deg>-?[0-9]+(?:[.,][0-9]+)?)\s*(?:°|deg)?\s*(?P<open>\?)?"
    r"(?:\s*±\s*(?P<within>[0-9]+(?:[.,][0-9]+)?))?"
)


class FinderModel(BaseModel):
    """What the answer is made of."""

    model_config = ConfigDict(frozen=True)


class MarkAt(FinderModel):
    """A mark and where it stands at the position, corrected for how the engine leans."""

    name: str
    clock_deg: float
    clock: str
    meets: str
    is_timing: bool


class Trick(FinderModel):
    """A way to find top dead centre, and its trap."""

    name: str
    how: str
    trap: str


class PortBack(FinderModel):
    """A tensioner that is pinned through its port: how far back the crank may be turned for it, and
    from where on the pin goes in.
    """

    name: str
    back_deg: float
    needs_deg: float
    words: str


class Finding(FinderModel):
    """How to bring the engine to its position.

    ``forwards_deg`` are crank degrees still to turn, forwards only: one figure where the angle is
    known, two a turn apart where the stroke is not, none where nothing is known; ``stroke`` is
    what cylinder 1 does now. ``lobes`` say where those of cylinder 1 point once it is there.
    """

    at_deg: float
    text: str
    now: str
    stroke: str | None
    forwards_deg: list[float]
    words: str
    tell: list[str]
    tricks: list[Trick]
    marks: list[MarkAt]
    lobes: list[str]
    lean_deg: float
    ports: list[PortBack] = []


def find_position(book: EngineBook, now: str = "unknown", lean_deg: float = 0.0) -> Finding:
    """From where the engine stands to the service position. ``now``: crank degrees of the cycle
    such as ``212deg`` or ``212deg ± 6``, with a question mark where only the turn is known
    (``212deg?``), ``rising`` or ``falling`` for the piston of cylinder 1, or ``unknown``;
    ``lean_deg`` is how far the engine leans clockwise as its chain end is seen. Raises PlanError
    for anything else.
    """
    if abs(lean_deg) > MOST_LEAN_DEG:
        raise PlanError(
            "No engine stands so askew.",
            read=f"{lean_deg:g}°",
            expected=f"what the level reads, at most {MOST_LEAN_DEG:g}° either way",
        )
    at = book.service_position.crank_deg
    forwards, said, stroke = _from_here(book, now, at)
    return Finding(
        at_deg=at,
        text=book.service_position.text,
        now=said,
        stroke=stroke,
        forwards_deg=forwards,
        words=_words(forwards, said, stroke),
        tell=_tell(book, at),
        tricks=_tricks(book, at),
        marks=[_mark_at(mark, lean_deg) for mark in _standing(book, at)],
        lobes=_lobes(book, at, lean_deg),
        lean_deg=lean_deg,
        ports=_ports(book),
    )


def stroke_of(book: EngineBook, crank_deg: float, cylinder: int = 1) -> str | None:
    """What a cylinder does at a crank angle; None where the book does not say when it fires."""
    fires = book.clearance.fires_deg.get(cylinder) if book.clearance else None
    if fires is None:
        return None
    return STROKES[int((crank_deg - fires) % CYCLE // STROKE)]


def _from_here(book: EngineBook, now: str, at: float) -> tuple[list[float], str, str | None]:
    """Degrees still to turn, what was read, and the stroke."""
    told = now.strip().lower()
    if told in ("", "unknown"):
        return [], "unknown", None
    if told in ("rising", "falling"):
        strokes = [s for s in STROKES if (s in RISING) == (told == "rising")]
        return [], f"piston 1 {told}", " or ".join(strokes)
    match = _ANGLE.fullmatch(told)
    deg = float(match["deg"].replace(",", ".")) if match else None
    if match is None or deg is None or not -CYCLE <= deg <= CYCLE:
        raise PlanError(
            "Where the engine stands cannot be read.",
            read=now[:40],
            expected="crank degrees such as 212deg, 32deg? where the stroke is not known, rising, "
            "falling or unknown",
            advice="Read the pulley against its scale, or choose unknown: the position is found "
            "from anywhere.",
        )
    if match["open"]:
        first = (at - deg) % TURN
        strokes = list(dict.fromkeys(filter(None, (stroke_of(book, d) for d in (deg, deg + TURN)))))
        return (
            [first, first + TURN],
            f"{deg % TURN:g}°, stroke unknown",
            " or ".join(strokes) or None,
        )
    within_deg = f" ± {match['within']}°" if match["within"] else ""
    return [(at - deg) % CYCLE], f"{deg % CYCLE:g}°{within_deg}", stroke_of(book, deg)


def _words(forwards: list[float], said: str, stroke: str | None) -> str:
    turns = "forwards only, never back"
    doing = f" Cylinder 1 is on {stroke} now." if stroke else ""
    if not forwards:
        return (
            f"Standing: {said}.{doing} Turn {turns}, until mark and compression agree: two turns "
            "at most."
        )
    if len(forwards) == 2:
        return (
            f"Standing: {said}.{doing} Turn {turns}: {forwards[0]:.0f}° brings the mark; if no "
            f"compression is felt on the way there, it is one turn more, {forwards[1]:.0f}°."
        )
    if forwards[0] < 0.5:
        return f"Standing: {said}. It is there: check mark and stroke all the same."
    return f"Standing: {said}.{doing} Turn {forwards[0]:.0f}°, {turns}."


def _tell(book: EngineBook, at: float) -> list[str]:
    """How the right turn is told from the other one."""
    found = [
        "Thumb or whistle at the plug hole of cylinder 1: it blows as the compression comes up."
    ]
    rotor = next((m for m in book.marks.values() if m.form == "rotor"), None)
    if rotor is not None:
        found.append(
            f"{rotor.name}: {rotor.meets}; half a turn of it away means one crank turn on."
        )
    held = [t for t in book.tools.values() if t.crank_deg == at and set(t.holds) & set(book.cams)]
    found += [
        f"{tool.name}: will not lie down one crank turn off, or where a cam has jumped."
        for tool in held
    ]
    if book.clearance is not None:
        found.append("Both valves of cylinder 1 have play on compression; at overlap none has.")
    return found


def _tricks(book: EngineBook, at: float) -> list[Trick]:
    """Ways to find the position on this engine, each with what misleads."""
    found: list[Trick] = []
    standing = _standing(book, at)
    outside = [m for m in standing if m.is_timing and m.behind == []]
    others = [m for m in standing if not m.is_timing]
    past = (at - book.clearance.fires_deg.get(1, at)) % TURN if book.clearance else 0.0
    then_on = f" The position is {past:g}° further on." if past else ""
    for mark in outside:
        trap = "It comes up once a turn: the stroke is still to be told."
        if others:
            trap += " Not to be taken for it: " + "; ".join(
                f"{within(m.name)} ({within(m.purpose or 'no timing mark')})" for m in others
            )
        found.append(Trick(name=mark.name, how=f"Bring it to {mark.meets}.", trap=trap + "."))
    held = [t for t in book.tools.values() if "crank" in t.holds]
    if not any(t.name.startswith(ROD) for t in held):
        how = "Through the plug hole: it rises, dwells and falls; top is the middle of the dwell."
        found.append(Trick(name=f"{ROD} on the piston crown", how=how + then_on, trap=ROD_TRAP))
    for tool in held:
        is_pin = tool.name.split()[-1].lower() in PINS
        trap = ROD_TRAP if tool.name.startswith(ROD) else TOOL_TRAP
        found.append(Trick(name=tool.name, how=tool.text + (FEEL if is_pin else ""), trap=trap))
    return found


def _ports(book: EngineBook) -> list[PortBack]:
    """Tensioners with a port: the one place where the crank may be turned back, and how far."""
    train = DriveTrain(book)
    found: list[PortBack] = []
    for chain, drive in train.chains.items():
        turn = port_turn(train, chain)
        back = drive.tensioner.port_back_deg if turn else None
        if turn is None or back is None:
            continue
        found.append(
            PortBack(
                name=drive.tensioner.name,
                back_deg=back,
                needs_deg=turn.needs_deg,
                words=f"Back by {turn.needs_deg:.0f}° to {back:g}° and no further: the pin goes in "
                f"through its port. Beyond {turn.most_deg:.0f}° the chain drags the cams back and "
                "may jump. Then forwards again to the mark.",
            )
        )
    return found


def _standing(book: EngineBook, at: float) -> list[Mark]:
    return [m for m in book.marks.values() if not m.is_timing or book.mark_at_deg(m) == at]


def _mark_at(mark: Mark, lean_deg: float) -> MarkAt:
    clock = (mark.clock_deg + lean_deg) % TURN
    return MarkAt(
        name=mark.name,
        clock_deg=clock,
        clock=clock_words(clock),
        meets=mark.meets or within(mark.purpose or ""),
        is_timing=mark.is_timing,
    )


def _lobes(book: EngineBook, at: float, lean_deg: float) -> list[str]:
    """Where the lobes of cylinder 1 point at the position."""
    if book.clearance is None or 1 not in book.clearance.fires_deg:
        return []
    train = DriveTrain(book)
    found: list[str] = []
    for group in book.clearance.valves.values():
        if 1 not in group.cylinders:
            continue
        past = (at - book.clearance.fires_deg[1] - group.centreline_deg) % CYCLE
        plane = _plane_of(book, group.cam)
        way = clock_per_crank(train, group.cam, plane)
        clock = (group.follower_clock_deg + way * past + lean_deg) % TURN
        name = book.shafts[group.cam].name
        found.append(f"{name}: {group.kind} lobes of cylinder 1 at {clock_words(clock)}")
    return found


def _plane_of(book: EngineBook, shaft: str) -> str:
    return next((s.plane for s in book.sprockets.values() if s.shaft == shaft), "main")
