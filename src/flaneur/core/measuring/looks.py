"""Worksheets that look, listen and count: tensioner by hand, tools, link counts, debris, endoscope,
noise, oil.
"""

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.lengths import HANDS, PLUGS, tensioner_named
from flaneur.core.measuring.worksheet import (
    Answer,
    Band,
    Blank,
    Filled,
    MeasuredPart,
    Worksheet,
    judged,
)

AMOUNTS = ("none", "some", "much", "not looked")
NOTE = Blank("note", "In your own words", "text", is_optional=True)
WHOLE = "engine"
SLACK = "slack taken up as the book says"


def compress_sheet(book: EngineBook) -> Worksheet:
    parts = [
        MeasuredPart(
            a.chain,
            t.name,
            f"sound: at least {t.leak_down_s:g} s under {t.leak_down_n:g} N"
            if t.leak_down_s
            else "the book gives no figure",
        )
        for a in book.arms.values()
        for t in (book.tensioners[a.tensioner],)
    ]
    return Worksheet(
        "compress",
        "Tensioner by hand",
        "A hydraulic tensioner that does not hold its oil lets the chain rattle.",
        "Press the plunger steadily in line with its bore; time it over the way stated.",
        "compress",
        5,
        tuple(parts),
        (
            Blank("method", "Judged by", "choice", choices=("time under a load", "feel")),
            Blank(
                "time",
                "Time to sink",
                "quantity",
                "time",
                "s",
                hint="such as 14 s",
                only_for="time under a load",
            ),
            Blank(
                "load",
                "Load",
                "quantity",
                "force",
                "",
                hint="such as 200 N or 20 kgf",
                only_for="time under a load",
            ),
            Blank(
                "feel",
                "It feels",
                "choice",
                choices=("firm, sinks very slowly", "springy", "sinks at once", "seized"),
                only_for="feel",
            ),
        ),
        ("Eye protection on. A plunger or spring that slips its pin flies.",),
    )


def compress(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Time under load, brought to the book's load in proportion (oil through a gap: flow goes with
    pressure).
    """
    t = tensioner_named(book, part)
    if filled.choice("method") == "feel":
        feel = filled.choice("feel")
        band = judged({"firm, sinks very slowly": "fine", "springy": "marginal"}, feel, "replace")
        note = " Relative only: compare with a new one, filled with oil."
        return Answer(None, "", None, f"{t.name}: {feel}.{note}", band, ())
    seconds, load = filled.quantity("time"), filled.quantity("load")
    if not (0 <= seconds < 3600 and 1 <= load <= 5000):
        raise ReadingError(
            "This is no test of a tensioner.",
            read=f"{seconds:g} s under {load:g} N",
            expected="0 to 3600 s under 1 to 5000 N",
        )
    brought = seconds * load / t.leak_down_n
    working = (
        f"{seconds:g} s · {load:g} N / {t.leak_down_n:g} N = {brought:.1f} s at the book's load",
    )
    if t.leak_down_s is None:
        return Answer(
            brought,
            "s",
            0.1 * brought + 0.5,
            f"{t.name}: sinks in {brought:.0f} s; the book gives nothing to judge it by.",
            "unknown",
            working,
        )
    band: Band = (
        "fine"
        if brought >= t.leak_down_s
        else "marginal"
        if brought >= 0.6 * t.leak_down_s
        else "replace"
    )
    holds = "it holds" if band == "fine" else "it leaks"
    words = (
        f"{t.name}: sinks in {brought:.0f} s, a sound one takes {t.leak_down_s:g} s or more: "
        f"{holds}."
    )
    return Answer(brought, "s", 0.1 * brought + 0.5, words, band, working)


def tool_sheet(book: EngineBook) -> Worksheet:
    return Worksheet(
        "tool_fit",
        "Alignment tool fit",
        "Whether a cam stands where the tool wants it: yes or no, within the tool's own play.",
        "At the check angle, slack taken up in running direction; press by hand only.",
        "tool_fit",
        10,
        tuple(MeasuredPart(c, book.shafts[c].name) for c in book.cams),
        (
            Blank(
                "tool",
                "Which tool",
                "text",
                hint="as it is marked, or straight edge over the flats",
            ),
            Blank("angle", "Crank at", "quantity", "angle", "deg", hint="check angle, such as 0°"),
            Blank(
                "fit",
                "The tool",
                "choice",
                choices=("slides on", "starts, does not seat", "does not start", "not tried"),
            ),
            Blank("slack", "Before that", "choice", choices=(SLACK, "not taken up", "unknown")),
            NOTE,
        ),
        (PLUGS, HANDS),
    )


def tool_fit(book: EngineBook, part: str, filled: Filled) -> Answer:
    fit, slack, angle = filled.choice("fit"), filled.choice("slack"), filled.quantity("angle")
    words = f"{book.shafts[part].name}: {filled.text('tool')} {fit} at {angle:g}° crank"
    if slack != SLACK:
        return Answer(
            None,
            "",
            None,
            f"{words}, {slack if slack != 'unknown' else 'slack unknown'}: a reading of the slack, "
            "not of the timing.",
            "unknown",
        )
    band = judged(
        {"slides on": "fine", "starts, does not seat": "marginal", "does not start": "replace"},
        fit,
        "unknown",
    )
    return Answer(None, "", None, f"{words}.", band)


def links_sheet(book: EngineBook) -> Worksheet:
    parts = [
        MeasuredPart(
            f"{key}.{i}",
            f"{chain.name}: {book.sprockets[c.start].name} to {book.sprockets[c.end].name}",
            f"the book has {c.links}",
        )
        for key, chain in book.chains.items()
        for i, c in enumerate(chain.counts)
    ]
    return Worksheet(
        "links",
        "Links between two marks",
        "Counting is the check when marks are gone, colours differ, or a tooth is in doubt.",
        "From the link on one marked tooth to the link on the next, in running direction, at the "
        "service position.",
        "links",
        6,
        tuple(parts),
        (
            Blank("counted", "Links counted", "count", hint="count twice"),
            Blank("slack", "Before that", "choice", choices=(SLACK, "not taken up", "unknown")),
        ),
        (PLUGS, HANDS),
    )


def links(book: EngineBook, part: str, filled: Filled) -> Answer:
    key, _, index = part.partition(".")
    count = book.chains[key].counts[int(index)]
    counted, more = filled.count("counted"), 0
    if counted > 2 * book.chains[key].links:
        raise ReadingError(
            "The chain has not that many links.",
            read=str(counted),
            expected=f"up to {book.chains[key].links}",
        )
    more = counted - count.links
    end = book.sprockets[count.end]
    words = (
        f"{book.chains[key].name}, {book.sprockets[count.start].name} to {end.name}: {counted} "
        f"links, the book has {count.links}"
    )
    if more == 0:
        words += "."
    elif abs(more) <= 3:
        teeth = "one tooth" if abs(more) == 1 else f"{abs(more)} teeth"
        words += (
            f": {abs(more)} {'more' if more > 0 else 'less'}, so one of the two sprockets "
            f"stands {teeth} off."
        )
    else:
        words += (
            ": too far apart for a jump; count again, and look whether these are the timing marks."
        )
    band: Band = (
        "unknown"
        if filled.choice("slack") != SLACK or abs(more) > 3
        else "fine"
        if more == 0
        else "replace"
    )
    return Answer(
        float(counted), "links", 0.0, words, band, (f"{counted} − {count.links} = {more:+d}",)
    )


def debris_sheet(book: EngineBook) -> Worksheet:
    return Worksheet(
        "debris",
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
                choices=(
                    "oil pan",
                    "filter",
                    "pickup screen",
                    "under the cover",
                    "oil feed screen",
                ),
            ),
            Blank("plastic", "Plastic", "choice", choices=AMOUNTS),
            Blank("metal", "Metal", "choice", choices=AMOUNTS),
            NOTE,
        ),
        ("Hot oil burns. Let the engine cool.",),
    )


def debris(_: EngineBook, __: str, filled: Filled) -> Answer:
    place, plastic, metal = filled.choice("place"), filled.choice("plastic"), filled.choice("metal")
    worst = (
        "much"
        if "much" in (plastic, metal)
        else "some"
        if "some" in (plastic, metal)
        else "not looked"
        if "not looked" in (plastic, metal)
        else "none"
    )
    band = judged({"much": "replace", "some": "marginal", "none": "fine"}, worst, "unknown")
    return Answer(None, "", None, f"{place.capitalize()}: plastic {plastic}, metal {metal}.", band)


def endoscope_sheet(book: EngineBook) -> Worksheet:
    parts = {
        **book.guides,
        **book.arms,
        **book.chains,
        **book.tensioners,
        **{k: s for k, s in book.sprockets.items()},
    }
    return Worksheet(
        "endoscope",
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
                choices=(
                    "whole",
                    "grooved",
                    "cracked or broken",
                    "missing",
                    "chain beside it",
                    "teeth hooked",
                    "could not see it",
                ),
            ),
            NOTE,
        ),
        ("Do not turn the engine with the probe inside.",),
    )


def endoscope(book: EngineBook, part: str, filled: Filled) -> Answer:
    finding = filled.choice("finding")
    name = next(
        g[part].name
        for g in (book.guides, book.arms, book.chains, book.tensioners, book.sprockets)
        if part in g
    )
    band = judged(
        {"whole": "fine", "grooved": "marginal", "could not see it": "unknown"}, finding, "replace"
    )
    return Answer(None, "", None, f"{name}: {finding}.", band)


def noise_sheet(book: EngineBook) -> Worksheet:
    places = [
        "front, top",
        "front, bottom",
        *(b.name for b in book.banks.values()),
        "rear",
        "accessories",
        "cannot tell",
    ]
    return Worksheet(
        "noise",
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
                choices=("cold start", "hot idle", "rev up", "under load", "always", "not heard"),
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
            Blank("place", "Loudest", "choice", choices=tuple(places)),
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
                choices=("not tried", "the noise stays", "the noise is gone"),
            ),
            NOTE,
        ),
        ("Belt off: the water pump stands still. Seconds only.", HANDS),
    )


def noise(_: EngineBook, __: str, filled: Filled) -> Answer:
    when, belt, place = filled.choice("when"), filled.choice("belt"), filled.choice("place")
    if when == "not heard":
        stood = (
            f" after {filled.quantity('standing'):g} h of standing"
            if filled.has("standing")
            else "; how long it had stood is unknown"
        )
        return Answer(
            None,
            "",
            None,
            f"No noise heard{stood}.",
            "fine" if filled.has("standing") else "unknown",
        )
    seconds = filled.quantity("seconds") if filled.has("seconds") else None
    lasts = f" for {seconds:g} s" if seconds is not None else ""
    words = f"Noise at {when}{lasts}, loudest at {place}"
    words += {
        "the noise is gone": "; gone with the belt off: an accessory, not the chain drive.",
        "the noise stays": "; stays with the belt off: not an accessory.",
        "not tried": "; accessories are not excluded yet.",
    }[belt]
    band = judged({"the noise is gone": "fine", "the noise stays": "marginal"}, belt, "unknown")
    return Answer(
        seconds,
        "s" if seconds is not None else "",
        0.5 if seconds is not None else None,
        words,
        band,
    )


def oil_sheet(book: EngineBook) -> Worksheet:
    hot = book.limits.oil_kpa_hot_idle
    return Worksheet(
        "oil",
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
                f"at least {hot:g} kPa at hot idle" if hot else "the book gives no pressure",
            ),
        ),
        (
            Blank(
                "level",
                "Level",
                "choice",
                choices=("full", "between the marks", "below the mark", "not looked"),
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
    level = filled.choice("level")
    words = f"Oil level {level}"
    band = judged({"below the mark": "replace", "not looked": "unknown"}, level, "fine")
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
    is_hot = filled.has("warm") and filled.quantity("warm") >= 80
    if pressure < least:
        band = "replace"
    elif not is_hot and band == "fine":
        words += "; not read hot"
        band = "unknown"
    return Answer(pressure, "kPa", 10.0, words + f"; at least {least:g} kPa at hot idle.", band)
