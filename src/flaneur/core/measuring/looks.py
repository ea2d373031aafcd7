"""Worksheets that look and listen: debris, endoscope, noise, oil."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Choice, Worded, choices
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.worksheet import (
    HANDS,
    NOTE,
    WHOLE,
    Answer,
    Band,
    Blank,
    Filled,
    MeasuredPart,
    Worksheet,
)

AT_BANK = "bank_"  # before a bank of the book: a noise is loudest at it


class Amount(Worded):
    """How much debris there is."""

    NONE = "none", "none"
    SOME = "some", "some"
    MUCH = "much", "much"
    NOT_LOOKED = "not_looked", "not looked"


AMOUNTS: dict[Amount, Band] = {
    Amount.MUCH: "replace",
    Amount.SOME: "marginal",
    Amount.NONE: "fine",
    Amount.NOT_LOOKED: "unknown",
}


class FoundIn(Worded):
    """Where debris was looked for."""

    PAN = "pan", "oil pan"
    FILTER = "filter", "filter"
    PICKUP = "pickup", "pickup screen"
    COVER = "cover", "under the cover"
    FEED = "feed", "oil feed screen"


class Look(Worded):
    """What an endoscope shows of a part."""

    WHOLE = "whole", "whole"
    GROOVED = "grooved", "grooved"
    BROKEN = "broken", "cracked or broken"
    MISSING = "missing", "missing"
    CHAIN_BESIDE = "chain_beside", "chain beside it"
    HOOKED = "hooked", "teeth hooked"
    NOT_SEEN = "not_seen", "could not see it"


LOOKS: dict[Look, Band] = {
    Look.WHOLE: "fine",
    Look.GROOVED: "marginal",
    Look.BROKEN: "replace",
    Look.MISSING: "replace",
    Look.CHAIN_BESIDE: "replace",
    Look.HOOKED: "replace",
    Look.NOT_SEEN: "unknown",
}


class NoiseAt(Worded):
    """Where a noise is loudest, besides at a bank."""

    FRONT_TOP = "front_top", "front, top"
    FRONT_BOTTOM = "front_bottom", "front, bottom"
    REAR = "rear", "rear"
    ACCESSORIES = "accessories", "accessories"
    UNKNOWN = "unknown", "cannot tell"


class NoiseWhen(Worded):
    """When a noise is heard."""

    COLD_START = "cold_start", "cold start"
    HOT_IDLE = "hot_idle", "hot idle"
    REV_UP = "rev_up", "rev up"
    LOAD = "load", "under load"
    ALWAYS = "always", "always"
    NOT_HEARD = "not_heard", "not heard"


class BeltOff(Worded):
    """What became of the noise with the accessory belt off."""

    NOT_TRIED = "not_tried", "not tried"
    STAYS = "stays", "the noise stays"
    GONE = "gone", "the noise is gone"


BELTS: dict[BeltOff, Band] = {
    BeltOff.GONE: "fine",
    BeltOff.STAYS: "marginal",
    BeltOff.NOT_TRIED: "unknown",
}


class Level(Worded):
    """The oil level on its gauge."""

    FULL = "full", "full"
    BETWEEN = "between", "between the marks"
    BELOW = "below", "below the mark"
    NOT_LOOKED = "not_looked", "not looked"


LEVELS: dict[Level, Band] = {
    Level.FULL: "fine",
    Level.BETWEEN: "fine",
    Level.BELOW: "replace",
    Level.NOT_LOOKED: "unknown",
}


def debris_sheet(book: EngineBook) -> Worksheet:
    """The sheet of what is found in pan and filter."""
    return Worksheet(
        ReadingKind.DEBRIS,
        "Debris",
        "Plastic comes from guides and arms, metal from chains, sprockets and bearings.",
        "Pan, filter cut open, oil pickup screen, under the covers; sieve what you find.",
        "debris",
        15,
        (MeasuredPart(WHOLE, book.name),),
        (
            Blank(
                "place",
                "Where",
                "choice",
                choices=choices(FoundIn),
            ),
            Blank("plastic", "Plastic", "choice", choices=choices(Amount)),
            Blank("metal", "Metal", "choice", choices=choices(Amount)),
            NOTE,
        ),
        ("Hot oil burns. Let the engine cool.",),
    )


def debris(_: EngineBook, __: str, filled: Filled) -> Answer:
    """The worse of plastic and metal; what was not looked at stays unknown."""
    place = filled.choice("place", FoundIn)
    plastic, metal = filled.choice("plastic", Amount), filled.choice("metal", Amount)
    order = (Amount.MUCH, Amount.SOME, Amount.NOT_LOOKED, Amount.NONE)
    worst = next(amount for amount in order if amount in (plastic, metal))
    return Answer(
        None,
        "",
        None,
        f"{place.words.capitalize()}: plastic {plastic.words}, metal {metal.words}.",
        AMOUNTS[worst],
    )


def endoscope_sheet(book: EngineBook) -> Worksheet:
    """The sheet of a look inside."""
    parts = {
        **book.guides,
        **book.arms,
        **book.chains,
        **book.tensioners,
        **{k: s for k, s in book.sprockets.items()},
    }
    return Worksheet(
        ReadingKind.ENDOSCOPE,
        "Endoscope",
        "A look at what no reading shows: broken faces, a chain beside its guide, hooked teeth.",
        "Through plug, sensor or filler opening; photograph what you judge by.",
        "endoscope",
        15,
        tuple(MeasuredPart(k, p.name) for k, p in parts.items()),
        (
            Blank(
                "finding",
                "It looks",
                "choice",
                choices=choices(Look),
            ),
            NOTE,
        ),
        ("Do not turn the engine with the probe inside.",),
    )


def endoscope(book: EngineBook, part: str, filled: Filled) -> Answer:
    """What the part looks like; what could not be seen stays unknown."""
    finding = filled.choice("finding", Look)
    name = next(
        g[part].name
        for g in (book.guides, book.arms, book.chains, book.tensioners, book.sprockets)
        if part in g
    )
    return Answer(None, "", None, f"{name}: {finding.words}.", LOOKS[finding])


def noise_sheet(book: EngineBook) -> Worksheet:
    """The sheet of when and where a noise is heard."""
    places = (
        *choices(NoiseAt.FRONT_TOP, NoiseAt.FRONT_BOTTOM),
        *(Choice(AT_BANK + key, bank.name) for key, bank in book.banks.items()),
        *choices(NoiseAt.REAR, NoiseAt.ACCESSORIES, NoiseAt.UNKNOWN),
    )
    return Worksheet(
        ReadingKind.NOISE,
        "Noise",
        "When, where and how long tells chain, phaser and accessory apart. Exclude the accessories "
        "first.",
        "Listening rod on the covers, one spot after another; then the same with the belt off, for "
        "some seconds only.",
        "noise",
        10,
        (MeasuredPart(WHOLE, book.name),),
        (
            Blank(
                "when",
                "When",
                "choice",
                choices=choices(NoiseWhen),
            ),
            Blank(
                "seconds",
                "For how long",
                "quantity",
                "time",
                "s",
                hint="such as 3 s",
                is_optional=True,
            ),
            Blank("place", "Loudest", "choice", choices=places),
            Blank(
                "standing",
                "Had stood for",
                "quantity",
                "hours",
                "h",
                hint="such as 14 h",
                is_optional=True,
            ),
            Blank(
                "belt",
                "With the belt off",
                "choice",
                choices=choices(BeltOff),
            ),
            NOTE,
        ),
        ("Belt off: the water pump stands still. Seconds only.", HANDS),
    )


def noise(_: EngineBook, __: str, filled: Filled) -> Answer:
    """When, where and how long; the belt off tells accessories apart."""
    when, belt = filled.choice("when", NoiseWhen), filled.choice("belt", BeltOff)
    place = filled.chosen("place")
    hours = filled.quantity("standing") if filled.has("standing") else None
    stood = f" after {hours:g} h of standing" if hours is not None else ""
    if when is NoiseWhen.NOT_HEARD:
        words = f"No noise heard{stood or '; how long it had stood is unknown'}."
        return Answer(None, "", None, words, "fine" if stood else "unknown")
    seconds = filled.quantity("seconds") if filled.has("seconds") else None
    lasts = f" for {seconds:g} s" if seconds is not None else ""
    words = f"Noise at {when.words}{lasts}{stood}, loudest at {place.words}"
    words += {
        BeltOff.GONE: "; gone with the belt off: an accessory, not the chain drive.",
        BeltOff.STAYS: "; stays with the belt off: not an accessory.",
        BeltOff.NOT_TRIED: "; accessories are not excluded yet.",
    }[belt]
    return Answer(
        seconds,
        "s" if seconds is not None else "",
        0.5 if seconds is not None else None,
        words,
        BELTS[belt],
    )


def oil_sheet(book: EngineBook) -> Worksheet:
    """The sheet of the oil's level, age and pressure."""
    hot = book.limits.oil_kpa_hot_idle
    return Worksheet(
        ReadingKind.OIL,
        "Oil",
        "Low or old oil makes sound tensioners and phasers look faulty. Put it right before "
        "judging them.",
        "Level on even ground after ten minutes; pressure at the gallery, hot, at idle.",
        "oil",
        10,
        (
            MeasuredPart(
                WHOLE,
                book.name,
                f"at least {hot:g} kPa at hot idle{book.said_by('oil_kpa_hot_idle')}"
                if hot
                else "the book gives no pressure",
            ),
        ),
        (
            Blank(
                "level",
                "Level",
                "choice",
                choices=choices(Level),
            ),
            Blank(
                "age",
                "Age of the oil",
                "quantity",
                "hours",
                "h",
                hint="such as 240 h",
                is_optional=True,
            ),
            Blank(
                "pressure",
                "Pressure",
                "quantity",
                "pressure",
                "",
                hint="such as 180 kPa, 1.8 bar, 26 psi",
                is_optional=True,
            ),
            Blank(
                "speed", "At", "quantity", "speed", "rpm", hint="such as 720 rpm", is_optional=True
            ),
            Blank(
                "warm",
                "Oil temperature",
                "quantity",
                "temperature",
                "°C",
                hint="such as 92 °C",
                is_optional=True,
            ),
        ),
        ("Hot oil burns.",),
    )


def oil(book: EngineBook, _: str, filled: Filled) -> Answer:
    """Pressure against the book's least, believed only when read hot."""
    level = filled.choice("level", Level)
    words = f"Oil level {level.words}"
    band = LEVELS[level]
    if filled.has("age"):
        words += f", {filled.quantity('age'):g} h old"
    if not filled.has("pressure"):
        return Answer(
            None,
            "",
            None,
            words + "; pressure not measured.",
            "unknown" if band == "fine" else band,
        )
    pressure, least = filled.quantity("pressure"), book.limits.oil_kpa_hot_idle
    if not 0 <= pressure < 2000:
        raise ReadingError(
            "No oil pump makes that.", read=f"{pressure:g} kPa", expected="0 to 2000 kPa"
        )
    words += f", {pressure:.0f} kPa"
    words += f" at {filled.quantity('speed'):.0f} rpm" if filled.has("speed") else ""
    words += f" and {filled.quantity('warm'):.0f} °C" if filled.has("warm") else ""
    if least is None:
        return Answer(
            pressure,
            "kPa",
            10.0,
            words + "; the book gives nothing to judge it by.",
            "unknown" if band == "fine" else band,
        )
    by = book.said_by("oil_kpa_hot_idle")
    is_hot = filled.has("warm") and filled.quantity("warm") >= 80
    if pressure < least:
        band = "replace"
    elif not is_hot and band == "fine":
        words += "; not read hot"
        band = "unknown"
    return Answer(pressure, "kPa", 10.0, words + f"; at least {least:g} kPa at hot idle{by}.", band)
