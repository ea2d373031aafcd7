"""Worksheets of slack: reverse-rotation lash, and how far a plunger stands out."""

import math

from flaneur.core.book.drive import Tensioner
from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded, choices
from flaneur.core.errors import ReadingError
from flaneur.core.gauss import Z90
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.worksheet import (
    HANDS,
    PLUGS,
    Answer,
    Band,
    Blank,
    Filled,
    MeasuredPart,
    Repeats,
    Worksheet,
    uncertainty,
)


class LashBy(Worded):
    """How lash is measured."""

    ANGLES = "angles", "two angles"
    POINTER = "pointer", "pointer on the pulley"


class PlungerBy(Worded):
    """How a plunger is measured."""

    DIRECT = "direct", "plunger, body to pad"
    GAUGE = "gauge", "gauge over the whole"
    NOTCHES = "notches", "notches counted"


def lash_sheet(book: EngineBook) -> Worksheet:
    """The sheet of lash, turned back."""
    bands = book.limits.lash_bands_deg
    note = (
        f"shop's rule: fine to {bands[0]:g}°, replace from {bands[1]:g}°"
        if bands
        else "the book gives no limit"
    )
    return Worksheet(
        ReadingKind.LASH,
        "Reverse-rotation lash",
        "Slack in all chains between crank and this cam: stretch, worn arms, a tensioner that does "
        "not hold.",
        "Turn to top dead centre in running direction and stop there; then back until the cam just "
        "moves. Finish forwards.",
        "lash",
        12,
        tuple(MeasuredPart(c, book.shafts[c].name, note) for c in book.cams),
        (
            Blank("method", "Measured by", "choice", choices=choices(LashBy)),
            Blank(
                "stop",
                "Angle at the stop",
                "quantities",
                "angle",
                "deg",
                hint="repeat three times: 0 0.2 0",
                only_for=LashBy.ANGLES,
            ),
            Blank(
                "moved",
                "Angle when the cam moves",
                "quantities",
                "angle",
                "deg",
                hint="as often: 6.5 6.8 6.4",
                only_for=LashBy.ANGLES,
            ),
            Blank(
                "way",
                "Way along the pulley",
                "quantities",
                "length",
                "mm",
                hint="8.9 9.1 9.0 mm",
                only_for=LashBy.POINTER,
            ),
            Blank(
                "diameter",
                "Pulley diameter",
                "quantity",
                "length",
                "mm",
                hint="where the pointer reads",
                only_for=LashBy.POINTER,
            ),
            Blank(
                "uncertainty",
                "Instrument, ±",
                "quantity",
                "angle",
                "deg",
                hint="at the crank, such as 0.5°",
            ),
        ),
        (PLUGS, HANDS),
    )


def lash(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Crank degrees from the stop to the first movement; way/(π·d)·360 along a pulley."""
    instrument = abs(filled.quantity("uncertainty"))
    if filled.choice("method", LashBy) is LashBy.ANGLES:
        stop, moved = filled.quantities("stop"), filled.quantities("moved")
        if len(stop) != len(moved):
            raise ReadingError(
                "The two rows differ in length.",
                read=f"{len(stop)} and {len(moved)} readings",
                expected="one of each per try",
            )
        each = [abs(b - a) for a, b in zip(stop, moved, strict=True)]
        working = [f"{b:g}° − {a:g}° = {abs(b - a):.2f}°" for a, b in zip(stop, moved, strict=True)]
    else:
        diameter, way = filled.quantity("diameter"), filled.quantities("way")
        if diameter < 20:
            raise ReadingError(
                "No pulley is that small.",
                read=f"{diameter:g} mm",
                expected="its diameter where the pointer reads",
            )
        each = [abs(w) / (math.pi * diameter) * 360 for w in way]
        working = [
            f"{abs(w):.2f} mm / (π · {diameter:g} mm) · 360° = {e:.2f}°"
            for w, e in zip(way, each, strict=True)
        ]
    if max(each) > 90:
        raise ReadingError(
            "This is more than a quarter turn.",
            read=f"{max(each):.1f}°",
            expected="lash of some degrees",
            advice="Measure again.",
        )
    found = Repeats.of(each, instrument)
    bands = book.limits.lash_bands_deg
    name = book.shafts[part].name
    if bands is None:
        return Answer(
            found.mean,
            "°",
            found.stderr,
            f"{name}: lash {found.mean:.1f}° at the crank; the book gives no limit to judge it by.",
            "unknown",
            (*working, found.words("°")),
        )
    band = "fine" if found.mean < bands[0] else "replace" if found.mean >= bands[1] else "marginal"
    more = {
        "fine": "fine; look elsewhere for the fault",
        "marginal": "marginal",
        "replace": "beyond the shop's rule; far above it the chain may have jumped already",
    }
    return Answer(
        found.mean,
        "°",
        found.stderr,
        f"{name}: lash {found.mean:.1f}° at the crank, {more[band]}.",
        band,
        (*working, found.words("°")),
        found.mean / bands[1],
    )


def tensioner_named(book: EngineBook, chain: str) -> Tensioner:
    """The tensioner of a chain. Raises ReadingError for a chain that has none."""
    tensioner = book.tensioner_of(chain)
    if tensioner is None:
        raise ReadingError(
            "This chain has no tensioner.", read=chain, expected="a chain that a tensioner holds"
        )
    return tensioner


def plunger_sheet(book: EngineBook) -> Worksheet:
    """The sheet of how far a plunger stands out."""
    parts: list[MeasuredPart] = []
    methods: list[PlungerBy] = [PlungerBy.DIRECT]
    for arm in book.arms.values():
        t = book.tensioners[arm.tensioner]
        parts.append(
            MeasuredPart(
                arm.chain, t.name, f"book {t.book_plunger_mm:g} mm, at most {t.max_plunger_mm:g} mm"
            )
        )
        methods += [
            m
            for m, on in ((PlungerBy.GAUGE, t.body_mm), (PlungerBy.NOTCHES, t.notch_mm))
            if on and m not in methods
        ]
    return Worksheet(
        ReadingKind.PLUNGER,
        "Plunger extension",
        "Tells a stretched chain from a worn guide: both make cams late, each moves the plunger in "
        "its own measure.",
        "From the tensioner's body to the pad, slack on the arm side, arm pressed by the plunger "
        "alone.",
        "plunger",
        8,
        tuple(parts),
        (
            Blank("method", "Measured by", "choice", choices=choices(*methods)),
            Blank(
                "out",
                "Plunger out",
                "quantities",
                "length",
                "",
                hint="such as 12.4 mm or 0.49 in; repeat",
                only_for=PlungerBy.DIRECT,
            ),
            Blank(
                "whole",
                "Whole length over the gauge",
                "quantities",
                "length",
                "",
                hint="body and plunger together",
                only_for=PlungerBy.GAUGE,
            ),
            Blank(
                "notches",
                "Notches that show",
                "count",
                hint="on the ratchet side",
                only_for=PlungerBy.NOTCHES,
            ),
            uncertainty("mm"),
        ),
        ("Eye protection on. A plunger or spring that slips its pin flies.",),
    )


def plunger(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Extension in millimetres: directly, as whole length less the body, or notches times their
    distance.
    """
    tensioner = tensioner_named(book, part)
    method, instrument = filled.choice("method", PlungerBy), abs(filled.quantity("uncertainty"))
    working: list[str] = []
    if method is PlungerBy.NOTCHES:
        if tensioner.notch_mm is None:
            raise ReadingError(
                "This tensioner has no ratchet.",
                read=tensioner.name,
                expected="another way of measuring",
            )
        count = filled.count("notches")
        value = tensioner.first_notch_mm + count * tensioner.notch_mm
        working.append(
            f"{tensioner.first_notch_mm:g} mm + {count} · {tensioner.notch_mm:g} mm = {value:.2f} "
            "mm"
        )
        # Anywhere between this notch and the next is read as this one.
        each, instrument = (
            [value + tensioner.notch_mm / 2],
            math.hypot(instrument, tensioner.notch_mm / math.sqrt(12)),
        )
    elif method is PlungerBy.GAUGE:
        if tensioner.body_mm is None:
            raise ReadingError(
                "The book gives no body length.",
                read=tensioner.name,
                expected="another way of measuring",
            )
        body = tensioner.body_mm
        each = [v - body for v in filled.quantities("whole")]
        working += [f"{v + body:.2f} mm − {body:g} mm = {v:.2f} mm" for v in each]
    else:
        each = filled.quantities("out")
    found = Repeats.of(each, instrument)
    if not 0 <= found.mean <= tensioner.max_plunger_mm or instrument <= 0:
        raise ReadingError(
            f"The plunger of {tensioner.name} cannot stand there.",
            read=f"{found.mean:.2f} mm ± {instrument:g} mm",
            expected=f"0 to {tensioner.max_plunger_mm:g} mm with an uncertainty above zero",
            advice="Measure again.",
        )
    more = found.mean - tensioner.book_plunger_mm
    is_at_stop = found.mean + Z90 * found.stderr >= tensioner.max_plunger_mm
    stop = f" At its stop, {tensioner.max_plunger_mm:g} mm: it takes up no more slack."
    words = (
        f"{tensioner.name}: plunger out {found.mean:.1f} mm, book "
        f"{tensioner.book_plunger_mm:g} mm ({more:+.1f} mm).{stop if is_at_stop else ''}"
    )
    # Short of its stop a plunger's place is no fault by itself: the verdict weighs what it says.
    band: Band = "replace" if is_at_stop else "unknown"
    return Answer(
        found.mean,
        "mm",
        found.stderr,
        words,
        band,
        (*working, found.words("mm")),
        found.mean / tensioner.max_plunger_mm,
    )
