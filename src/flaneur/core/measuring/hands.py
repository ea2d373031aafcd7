"""Worksheets of hand and count: tensioner pressed in, alignment tool, links between marks."""

from flaneur.core.book.drive import LinkCount
from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded, choices
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.slack import tensioner_named
from flaneur.core.measuring.worksheet import (
    HANDS,
    NOTE,
    PLUGS,
    Answer,
    Band,
    Blank,
    Filled,
    MeasuredPart,
    Worksheet,
)


class TensionerBy(Worded):
    """How a tensioner is judged by hand."""

    TIME = "time", "time under a load"
    FEEL = "feel", "feel"


class Feel(Worded):
    """How a tensioner's plunger feels under the thumb."""

    FIRM = "firm", "firm, sinks very slowly"
    SPRINGY = "springy", "springy"
    AT_ONCE = "at_once", "sinks at once"
    SEIZED = "seized", "seized"


FEELS: dict[Feel, Band] = {
    Feel.FIRM: "fine",
    Feel.SPRINGY: "marginal",
    Feel.AT_ONCE: "replace",
    Feel.SEIZED: "replace",
}


class ToolFit(Worded):
    """Whether an alignment tool goes on."""

    SLIDES = "slides", "slides on"
    STARTS = "starts", "starts, does not seat"
    NOT_AT_ALL = "not_at_all", "does not start"
    NOT_TRIED = "not_tried", "not tried"


FITS: dict[ToolFit, Band] = {
    ToolFit.SLIDES: "fine",
    ToolFit.STARTS: "marginal",
    ToolFit.NOT_AT_ALL: "replace",
    ToolFit.NOT_TRIED: "unknown",
}


class Slack(Worded):
    """Whether slack was taken up before looking."""

    TAKEN_UP = "taken_up", "slack taken up as the book says"
    NOT_TAKEN_UP = "not_taken_up", "not taken up"
    UNKNOWN = "unknown", "unknown"


def compress_sheet(book: EngineBook) -> Worksheet:
    """The sheet of a tensioner pressed in by hand."""
    parts = [
        MeasuredPart(
            a.chain,
            t.name,
            f"sound: at least {t.leak_down_s:g} s under {t.leak_down_n:g} N"
            f"{book.said_by(f'leak_down_s:{a.tensioner}')}"
            if t.leak_down_s
            else "the book gives no figure",
        )
        for a in book.arms.values()
        for t in (book.tensioners[a.tensioner],)
    ]
    return Worksheet(
        ReadingKind.COMPRESS,
        "Tensioner by hand",
        "A hydraulic tensioner that does not hold its oil lets the chain rattle.",
        "Press the plunger steadily in line with its bore; time it over the way stated.",
        "compress",
        5,
        tuple(parts),
        (
            Blank("method", "Judged by", "choice", choices=choices(TensionerBy)),
            Blank(
                "time",
                "Time to sink",
                "quantity",
                "time",
                "s",
                hint="such as 14 s",
                only_for=TensionerBy.TIME,
            ),
            Blank(
                "load",
                "Load",
                "quantity",
                "force",
                "",
                hint="such as 200 N or 20 kgf",
                only_for=TensionerBy.TIME,
            ),
            Blank(
                "feel",
                "It feels",
                "choice",
                choices=choices(Feel),
                only_for=TensionerBy.FEEL,
            ),
        ),
        ("Eye protection on. A plunger or spring that slips its pin flies.",),
    )


def compress(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Time under load, brought to the book's load in proportion (oil through a gap: flow goes with
    pressure).
    """
    t = tensioner_named(book, part)
    if filled.choice("method", TensionerBy) is TensionerBy.FEEL:
        feel = filled.choice("feel", Feel)
        band = FEELS[feel]
        note = " Relative only: compare with a new one, filled with oil."
        return Answer(None, "", None, f"{t.name}: {feel.words}.{note}", band, ())
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
        f"{t.name}: sinks in {brought:.0f} s, a sound one takes {t.leak_down_s:g} s or more"
        f"{_said_by(book, part)}: {holds}."
    )
    return Answer(brought, "s", 0.1 * brought + 0.5, words, band, working)


def _said_by(book: EngineBook, chain: str) -> str:
    arm = book.arm_of(chain)
    return book.said_by(f"leak_down_s:{book.arms[arm].tensioner}") if arm else ""


def tool_sheet(book: EngineBook) -> Worksheet:
    """The sheet of an alignment tool laid on."""
    return Worksheet(
        ReadingKind.TOOL_FIT,
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
                choices=choices(ToolFit),
            ),
            Blank("slack", "Before that", "choice", choices=choices(Slack)),
            NOTE,
        ),
        (PLUGS, HANDS),
    )


def tool_fit(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Whether the tool goes on; with slack not taken up it says nothing of timing."""
    fit, slack = filled.choice("fit", ToolFit), filled.choice("slack", Slack)
    angle = filled.quantity("angle")
    words = f"{book.shafts[part].name}: {filled.text('tool')} {fit.words} at {angle:g}° crank"
    if slack is not Slack.TAKEN_UP:
        return Answer(
            None,
            "",
            None,
            f"{words}, {'slack unknown' if slack is Slack.UNKNOWN else slack.words}: a reading of "
            "the slack, not of the timing.",
            "unknown",
        )
    return Answer(None, "", None, f"{words}.", FITS[fit])


def _counts(book: EngineBook) -> dict[str, tuple[str, LinkCount]]:
    """Chain and count of every pair of marks, by the name the sheet gives the pair."""
    return {
        f"{key}.{i}": (key, count)
        for key, chain in book.chains.items()
        for i, count in enumerate(chain.counts)
    }


def links_sheet(book: EngineBook) -> Worksheet:
    """The sheet of links counted between two marks."""
    parts = [
        MeasuredPart(
            part,
            f"{book.chains[key].name}: {book.sprockets[c.start].name} to "
            f"{book.sprockets[c.end].name}",
            f"the book has {c.links}",
        )
        for part, (key, c) in _counts(book).items()
    ]
    return Worksheet(
        ReadingKind.LINKS,
        "Links between two marks",
        "Counting is the check when marks are gone, colours differ, or a tooth is in doubt.",
        "From the link on one marked tooth to the link on the next, in running direction, at the "
        "service position.",
        "links",
        6,
        tuple(parts),
        (
            Blank("counted", "Links counted", "count", hint="count twice"),
            Blank("slack", "Before that", "choice", choices=choices(Slack)),
        ),
        (PLUGS, HANDS),
    )


def links(book: EngineBook, part: str, filled: Filled) -> Answer:
    """Links counted against the book's: one more or less is one tooth."""
    key, count = _counts(book)[part]
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
        if filled.choice("slack", Slack) is not Slack.TAKEN_UP or abs(more) > 3
        else "fine"
        if more == 0
        else "replace"
    )
    return Answer(
        float(counted), "links", 0.0, words, band, (f"{counted} − {count.links} = {more:+d}",)
    )
