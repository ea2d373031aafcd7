"""Worksheets that measure: lash, plunger, chain length, liner."""

import math

from flaneur.core.book.drive import Tensioner
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.worksheet import Answer, Blank, Filled, MeasuredPart, Repeats, Worksheet

STEEL_PER_K = 11.5e-6
ROOM_C = 20.0
HANDS = "Hands clear of chain and sprockets while anybody turns the crank. Call before you turn."
PLUGS = "Plugs out before turning by hand. Never force it: a hard stop is a valve."


def _uncertainty(unit: str, measure: str = "length") -> Blank:
    return Blank(
        "uncertainty",
        "Instrument, ±",
        "quantity",
        measure,
        unit,
        hint=f"what the instrument may be off, such as 0.1 {unit}",
    )


def lash_sheet(book: EngineBook) -> Worksheet:
    bands = book.limits.lash_bands_deg
    note = (
        f"shop's rule: fine to {bands[0]:g}°, replace from {bands[1]:g}°"
        if bands
        else "the book gives no limit"
    )
    return Worksheet(
        "lash",
        "Reverse-rotation lash",
        "Slack in all chains between crank and this cam: stretch, worn arms, a tensioner that does "
        "not hold.",
        "Turn to top dead centre in running direction and stop there; then back until the cam just "
        "moves. Finish forwards.",
        "lash",
        12,
        tuple(MeasuredPart(c, book.shafts[c].name, note) for c in book.cams),
        (
            Blank(
                "method", "Measured by", "choice", choices=("two angles", "pointer on the pulley")
            ),
            Blank(
                "stop",
                "Angle at the stop",
                "quantities",
                "angle",
                "deg",
                hint="repeat three times: 0 0.2 0",
                only_for="two angles",
            ),
            Blank(
                "moved",
                "Angle when the cam moves",
                "quantities",
                "angle",
                "deg",
                hint="as often: 6.5 6.8 6.4",
                only_for="two angles",
            ),
            Blank(
                "way",
                "Way along the pulley",
                "quantities",
                "length",
                "mm",
                hint="8.9 9.1 9.0 mm",
                only_for="pointer on the pulley",
            ),
            Blank(
                "diameter",
                "Pulley diameter",
                "quantity",
                "length",
                "mm",
                hint="where the pointer reads",
                only_for="pointer on the pulley",
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
    if filled.choice("method") == "two angles":
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
    parts: list[MeasuredPart] = []
    methods: list[str] = ["plunger, body to pad"]
    for arm in book.arms.values():
        t = book.tensioners[arm.tensioner]
        parts.append(
            MeasuredPart(
                arm.chain, t.name, f"book {t.book_plunger_mm:g} mm, at most {t.max_plunger_mm:g} mm"
            )
        )
        methods += [
            m
            for m, on in (("gauge over the whole", t.body_mm), ("notches counted", t.notch_mm))
            if on and m not in methods
        ]
    return Worksheet(
        "plunger",
        "Plunger extension",
        "Tells a stretched chain from a worn guide: both make cams late, each moves the plunger in "
        "its own measure.",
        "From the tensioner's body to the pad, slack on the arm side, arm pressed by the plunger "
        "alone.",
        "plunger",
        8,
        tuple(parts),
        (
            Blank("method", "Measured by", "choice", choices=tuple(methods)),
            Blank(
                "out",
                "Plunger out",
                "quantities",
                "length",
                "",
                hint="such as 12.4 mm or 0.49 in; repeat",
                only_for="plunger, body to pad",
            ),
            Blank(
                "whole",
                "Whole length over the gauge",
                "quantities",
                "length",
                "",
                hint="body and plunger together",
                only_for="gauge over the whole",
            ),
            Blank(
                "notches",
                "Notches that show",
                "count",
                hint="on the ratchet side",
                only_for="notches counted",
            ),
            _uncertainty("mm"),
        ),
        ("Eye protection on. A plunger or spring that slips its pin flies.",),
    )


def plunger(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Extension in millimetres: directly, as whole length less the body, or notches times their
    distance.
    """
    tensioner = tensioner_named(book, part)
    method, instrument = filled.choice("method"), abs(filled.quantity("uncertainty"))
    working: list[str] = []
    if method == "notches counted":
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
    elif method == "gauge over the whole":
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
    words = (
        f"{tensioner.name}: plunger out {found.mean:.1f} mm, book "
        f"{tensioner.book_plunger_mm:g} mm ({more:+.1f} mm)."
    )
    return Answer(found.mean, "mm", found.stderr, words, "unknown", (*working, found.words("mm")))


def chain_length_sheet(book: EngineBook) -> Worksheet:
    return Worksheet(
        "chain_length",
        "Chain length over links",
        "Elongation itself, measured on the chain: nothing else comes into it.",
        "Chain clean, dry, straight on a bench, under the stated pull; over as many links as lie "
        "flat, pin to like pin.",
        "chain_length",
        10,
        tuple(
            MeasuredPart(k, c.name, f"pitch {c.pitch_mm:g} mm, limit {c.limit_elongation_pct:g} %")
            for k, c in book.chains.items()
        ),
        (
            Blank("links", "Links measured over", "count", hint="even number, the more the better"),
            Blank(
                "length", "Length", "quantities", "length", "", hint="repeat: 381.9 382.0 381.9 mm"
            ),
            Blank("pull", "Pull", "quantity", "force", "N", hint="such as 100 N", is_optional=True),
            Blank(
                "temperature",
                "Chain temperature",
                "quantity",
                "temperature",
                "°C",
                hint="20 °C when left empty",
                is_optional=True,
            ),
            _uncertainty("mm"),
        ),
    )


def chain_length(book: EngineBook, part: str, filled: Filled) -> Answer:
    """ε = L/(N·p·(1 + α(T − 20 °C))) − 1, per cent; α of steel 11.5·10⁻⁶ 1/K."""
    chain = book.chains[part]
    links, lengths, instrument = (
        filled.count("links"),
        filled.quantities("length"),
        abs(filled.quantity("uncertainty")),
    )
    if not 4 <= links <= chain.links:
        raise ReadingError(
            "The chain has not that many links.", read=str(links), expected=f"4 to {chain.links}"
        )
    warm = filled.quantity("temperature") if filled.has("temperature") else ROOM_C
    if not -40 <= warm <= 150:
        raise ReadingError(
            "No chain is that warm on a bench.", read=f"{warm:g} °C", expected="−40 to 150 °C"
        )
    new = links * chain.pitch_mm * (1 + STEEL_PER_K * (warm - ROOM_C))
    found = Repeats.of(lengths, instrument)
    value, error = (found.mean / new - 1) * 100, found.stderr / new * 100
    if not -2 <= value <= 10:
        raise ReadingError(
            "This length does not belong to that many links.",
            read=f"{found.mean:.1f} mm over {links} links",
            expected=f"about {new:.1f} mm when new",
            advice="Count again.",
        )
    limit = chain.limit_elongation_pct
    band = "replace" if value >= limit else "marginal" if value + 1.645 * error >= limit else "fine"
    low, high = value - 1.645 * error, value + 1.645 * error
    words = (
        f"{chain.name}: elongated {value:.2f} % (90 %: {low:.2f} to {high:.2f} %), limit "
        f"{limit:g} %."
    )
    working = (
        found.words("mm"),
        f"new: {links} · {chain.pitch_mm:g} mm at {warm:g} °C = {new:.2f} mm",
        f"{found.mean:.2f} / {new:.2f} − 1 = {value:.2f} %",
    )
    return Answer(
        value,
        "%",
        error,
        words
        if filled.has("pull")
        else words + " The pull is not stated: a slack chain measures short.",
        band,
        working,
    )


def liner_sheet(book: EngineBook) -> Worksheet:
    faces = {**book.guides, **book.arms}
    return Worksheet(
        "liner",
        "Guide liner thickness",
        "Wear of a guide or arm, measured on the part.",
        "Ball-ended gauge in the bottom of each groove, at the ends and the middle of the face.",
        "liner",
        6,
        tuple(
            MeasuredPart(k, f.name, f"new {f.liner_mm:g} mm, limit {f.limit_wear_mm:g} mm of wear")
            for k, f in faces.items()
        ),
        (
            Blank(
                "points",
                "Thickness at several points",
                "quantities",
                "length",
                "",
                hint="such as 4.9 4.2 4.7 mm",
            ),
            Blank(
                "face",
                "The face is",
                "choice",
                choices=("whole", "cracked", "piece missing", "not seen"),
            ),
            _uncertainty("mm"),
        ),
    )


def liner(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Wear = new thickness less the thinnest point, millimetres."""
    face = {**book.guides, **book.arms}[part]
    points, instrument, state = (
        filled.quantities("points"),
        abs(filled.quantity("uncertainty")),
        filled.choice("face"),
    )
    if min(points) < 0 or max(points) > 1.15 * face.liner_mm + instrument:
        raise ReadingError(
            "A liner cannot be that thick.",
            read=", ".join(f"{p:g}" for p in points) + " mm",
            expected=f"0 to {face.liner_mm:g} mm",
            advice="Zero the gauge.",
        )
    thinnest = min(points)
    wear = max(0.0, face.liner_mm - thinnest)
    broken = state in ("cracked", "piece missing")
    band = (
        "replace"
        if wear >= face.limit_wear_mm or broken
        else "marginal"
        if wear + 1.645 * instrument >= face.limit_wear_mm
        else "fine"
    )
    if state == "not seen" and band == "fine":
        band = "unknown"
    words = (
        f"{face.name}: worn {wear:.1f} mm at the thinnest of {len(points)} points, limit "
        f"{face.limit_wear_mm:g} mm; face {state}."
    )
    return Answer(
        wear,
        "mm",
        max(instrument, 0.02),
        words,
        band,
        (f"{face.liner_mm:g} mm − {thinnest:g} mm = {wear:.2f} mm",),
    )
