"""Worksheets of parts measured themselves: chain length, liner."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded, choices
from flaneur.core.errors import ReadingError
from flaneur.core.gauss import Z90
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.worksheet import (
    Answer,
    Blank,
    Filled,
    MeasuredPart,
    Repeats,
    Worksheet,
    uncertainty,
)

STEEL_PER_K = 11.5e-6
ROOM_C = 20.0


class Face(Worded):
    """What the face of a guide or arm shows."""

    WHOLE = "whole", "whole"
    CRACKED = "cracked", "cracked"
    MISSING = "missing", "piece missing"
    NOT_SEEN = "not_seen", "not seen"


def chain_length_sheet(book: EngineBook) -> Worksheet:
    """The sheet of a chain's length over many links."""
    return Worksheet(
        ReadingKind.CHAIN_LENGTH,
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
            uncertainty("mm"),
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
    band = "replace" if value >= limit else "marginal" if value + Z90 * error >= limit else "fine"
    low, high = value - Z90 * error, value + Z90 * error
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
        max(0.0, value / limit),
    )


def liner_sheet(book: EngineBook) -> Worksheet:
    """The sheet of a liner's thickness."""
    faces = {**book.guides, **book.arms}
    return Worksheet(
        ReadingKind.LINER,
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
                choices=choices(Face),
            ),
            uncertainty("mm"),
        ),
    )


def liner(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Wear = new thickness less the thinnest point, millimetres."""
    face = {**book.guides, **book.arms}[part]
    points, instrument, state = (
        filled.quantities("points"),
        abs(filled.quantity("uncertainty")),
        filled.choice("face", Face),
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
    broken = state in (Face.CRACKED, Face.MISSING)
    band = (
        "replace"
        if wear >= face.limit_wear_mm or broken
        else "marginal"
        if wear + Z90 * instrument >= face.limit_wear_mm
        else "fine"
    )
    if state is Face.NOT_SEEN and band == "fine":
        band = "unknown"
    words = (
        f"{face.name}: worn {wear:.1f} mm at the thinnest of {len(points)} points, limit "
        f"{face.limit_wear_mm:g} mm; face {state.words}."
    )
    return Answer(
        wear,
        "mm",
        max(instrument, 0.02),
        words,
        band,
        (f"{face.liner_mm:g} mm − {thinnest:g} mm = {wear:.2f} mm",),
        wear / face.limit_wear_mm,
    )
