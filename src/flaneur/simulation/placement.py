"""The chain laid out pin by pin: an independent witness of what the path solver says.

Synthesis uses this and diagnosis uses ``chain.py``, so that an error of one cannot hide in the
other. The march goes against the travel, from the driver back along the tight strand. Pins sit on
sprocket pitch circles one tooth apart, on guide faces and free strands one (elongated) pitch apart.
A belt is laid as a chain of links a sixteenth of its pitch: it bends smoothly.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

from scipy.optimize import brentq

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import NEW, ChainDrive, ChainWear
from flaneur.core.drive.loop import Disc
from flaneur.core.drive.train import DriveState, DriveTrain
from flaneur.core.faults.model import Faults

PHASES = 12
ENGINES_KEPT = 64
BELT_FINENESS = 16


@dataclass(frozen=True)
class Placed:
    """Seats as (pin index, heading of that pin from the sprocket's centre in radians), and links
    round the loop.
    """

    seats: dict[str, tuple[int, float]]
    links: float


def _distance_to_contact(px: float, py: float, disc: Disc) -> float:
    """Length of the taut line from a point to where it touches the disc."""
    return math.sqrt(max(0.0, (disc.x - px) ** 2 + (disc.y - py) ** 2 - disc.radius**2))


def _leave_heading(disc: Disc, wrap: int, after: Disc, wrap_after: int) -> float:
    """Heading from the centre of the point where the chain lifts off ``disc`` towards the next."""
    dx, dy = after.x - disc.x, after.y - disc.y
    k = wrap_after * after.radius - wrap * disc.radius
    return math.atan2(dy, dx) + math.asin(k / math.hypot(dx, dy)) + wrap * math.pi / 2


def _landing(px: float, py: float, step: float, disc: Disc, wrap: int) -> float:
    """Heading of the point of the disc's circle one link from (px, py), on the far side in running
    order.
    """
    dx, dy = px - disc.x, py - disc.y
    distance = math.hypot(dx, dy)
    cosine = (disc.radius**2 + distance**2 - step**2) / (2 * disc.radius * distance)
    return math.atan2(dy, dx) - wrap * math.acos(max(-1.0, min(1.0, cosine)))


def place(
    drive: ChainDrive, plunger_mm: float, wear: ChainWear = NEW, phase: float = 0.0
) -> Placed:
    """Lay the chain pin by pin with the driver turned ``phase`` of a tooth. Raises BookError when
    it runs away.
    """
    discs = drive.path(plunger_mm, wear).discs
    order = [discs[0], *reversed(discs[1:])]
    fine = fineness(drive)
    step = drive.pitch_mm * (1 + wear.elongation) / fine
    driver = order[0]
    tooth = 2 * math.pi / (driver.teeth * fine)
    wrap = -driver.wrap
    # The driver's seats form a grid fixed in its material: start on the seat nearest the lift-off
    # point, since a seat carries its pin while the middle of the link beyond it lies before that
    # point.
    leave = _leave_heading(driver, wrap, order[1], -order[1].wrap)
    start = -wrap * phase * tooth
    seat = round((leave - start) / tooth)
    first = start + seat * tooth
    x, y = driver.x + driver.radius * math.cos(first), driver.y + driver.radius * math.sin(first)
    pin = pin_0 = -wrap * seat
    seats: dict[str, tuple[int, float]] = {}
    for i, disc in enumerate([*order[1:], driver]):
        wrap = -disc.wrap
        pace = (
            2 * math.pi / (disc.teeth * fine)
            if disc.teeth
            else 2 * math.asin(step / (2 * disc.radius))
        )
        # Whole links along the straight strand; the last pin lands on the circle nearest the point
        # of contact.
        count = max(1, round(_distance_to_contact(x, y, disc) / step))
        angle = _landing(x, y, count * step, disc, wrap)
        pin += count
        if disc.teeth:
            seats[disc.id] = (pin, angle)
        if i == len(order) - 1:
            break
        after = order[(i + 2) % len(order)]
        leave = _leave_heading(disc, wrap, after, -after.wrap)
        turn = (wrap * (angle - leave) + pace / 2) % (2 * math.pi)
        walked = 0 if not disc.teeth and turn > math.pi else math.floor(turn / pace)
        angle -= wrap * walked * pace
        pin += walked
        x, y = disc.x + disc.radius * math.cos(angle), disc.y + disc.radius * math.sin(angle)
    wrap = -driver.wrap
    rest = (wrap * (seats[driver.id][1] - first)) % (2 * math.pi)
    return Placed(seats, (pin - pin_0 + rest / tooth) / fine)


def fineness(drive: ChainDrive) -> int:
    """Pieces a pitch is laid in: a chain's links do not bend, a belt does everywhere."""
    return BELT_FINENESS if drive.is_belt else 1


def placed_plunger_mm(drive: ChainDrive, wear: ChainWear) -> float:
    """Plunger extension of a worn drive: the book's, plus how far the laid-out loop moved since it
    was new.

    A chain of straight links lies a few hundredths inside the smooth path; the book extension is
    measured on a new engine, which has the same links, so only the difference counts.
    """
    moved = closing_plunger_mm(drive, wear) - closing_plunger_mm(drive, NEW)
    return drive.tensioner.book_plunger_mm + moved


def closing_plunger_mm(drive: ChainDrive, wear: ChainWear) -> float:
    """Extension at which the laid-out chain closes with its own number of links (mean over one
    tooth).
    """

    def excess(x: float) -> float:
        return (
            sum(place(drive, x, wear, k / PHASES).links for k in range(PHASES)) / PHASES
            - drive.chain.links
        )

    x = drive.tensioner.book_plunger_mm
    here = excess(x)
    step = 0.5 if here < 0 else -0.5
    while 0 <= x + step <= drive.tensioner.max_plunger_mm:
        there = excess(x + step)
        if (there < 0) != (here < 0):
            low, high = sorted((x, x + step))
            return float(brentq(excess, low, high, xtol=1e-6))
        x += step
    return x


def placed_lags_deg(drive: ChainDrive, wear: ChainWear, plunger_mm: float) -> dict[str, float]:
    """Lag of each driven sprocket in its own degrees from seats of the same pin, mean over one
    tooth of the driver.
    """
    book_mm = drive.book_plunger_mm
    total = dict.fromkeys(drive.driven, 0.0)
    for k in range(PHASES):
        now, book = (
            place(drive, plunger_mm, wear, k / PHASES),
            place(drive, book_mm, NEW, k / PHASES),
        )
        for sprocket in drive.driven:
            disc = drive.book.sprockets[sprocket]
            pace = 2 * math.pi / (disc.teeth * fineness(drive))
            (pin, angle), (book_pin, book_angle) = now.seats[sprocket], book.seats[sprocket]
            moved = disc.wrap * (angle - book_angle) - (pin - book_pin) * pace
            moved = (moved + math.pi) % (2 * math.pi) - math.pi
            total[sprocket] += math.degrees(moved) / PHASES
    return total


def placed_state(book: EngineBook, faults: Faults) -> DriveState:
    """What an engine with these faults would show, laid out pin by pin. Crank degrees and mm."""
    return _placed(book, faults.model_dump_json())


@lru_cache(maxsize=ENGINES_KEPT)
def _placed(book: EngineBook, written: str) -> DriveState:
    """The same by what the faults are, worked out once: whoever makes signals asks for the truth
    behind them too.
    """
    faults = Faults.model_validate_json(written)
    faults.check_against(book)
    train = DriveTrain(book)
    late = {k: 0.0 for k, s in book.shafts.items() if s.kind == "crank"}
    plunger: dict[str, float] = {}
    for chain, drive in train.chains.items():
        wear = train.wear_of(faults, chain)
        if drive.has_tensioner:
            plunger[chain] = placed_plunger_mm(drive, wear)
        teeth = {
            s: faults.jumped_teeth.get(f"{chain}/{s}", 0)
            for s in (drive.chain.driver, *drive.driven)
        }
        driver = book.sprockets[drive.chain.driver]
        for sprocket, lag in placed_lags_deg(drive, wear, plunger.get(chain, 0.0)).items():
            shaft = book.sprockets[sprocket]
            # A link lost at the driver is one driver tooth for all that the chain turns.
            jumped = (
                teeth[sprocket] * 360 / shaft.teeth + teeth[drive.chain.driver] * 360 / shaft.teeth
            )
            ratio = train.crank_per_turn[shaft.shaft]
            late[shaft.shaft] = late.get(driver.shaft, 0.0) + (lag + jumped) * ratio
    return DriveState({cam: late[cam] for cam in book.cams}, plunger)
