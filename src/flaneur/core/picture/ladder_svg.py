"""The lateness ladder as a picture: one drawing, in the colours of the screen or of paper."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from html import escape

from pydantic import BaseModel, ConfigDict

from flaneur.core.measuring.kinds import Phase
from flaneur.core.picture.ladder import Ladder, LadderRow, Rung
from flaneur.core.picture.theme import Palette
from flaneur.core.wording import counted, late_parts, late_words, within

TEETH = (-1, 1, 2, 3)
GAUGE_PX = 96.0
LETTER_PX = 7.4  # of a letter of 13.5 px, at most
WORD_PX = 6.2  # of one within words, about
MARK_PX = 11.0  # from a reading to its name
Scale = Callable[[float], float]
WIDE = 720.0
"""The least width at which names stand beside their row; drawn narrower they stand above it."""


SCREEN_PX = (280.0, 400.0, 560.0, WIDE)


class LadderDrawing(BaseModel):
    """The ladder drawn for a place of at least ``least_px``."""

    model_config = ConfigDict(frozen=True)

    least_px: float
    svg: str


def ladder_drawings(ladder: Ladder, look: Palette) -> list[LadderDrawing]:
    """The ladder at each of the widths a screen asks for; none while no cam has been read."""
    drawn = [(width, ladder_svg(ladder, look, width)) for width in SCREEN_PX]
    return [LadderDrawing(least_px=width, svg=svg) for width, svg in drawn if svg]


@dataclass(frozen=True)
class Layout:
    """Where things stand in a ladder of some width, px."""

    width: float
    left: float
    right: float
    row: float
    middle: float  # of a row's line, from its top
    said: float  # of a row's figure, from its top
    is_beside: bool  # names and figures beside the scale, not above it
    top: float = 30.0


def layout_of(width: float) -> Layout:
    """Names and figures beside the scale where there is room, else above it."""
    if width >= WIDE:
        return Layout(width, left=150, right=160, row=84, middle=42, said=42, is_beside=True)
    return Layout(width, left=14, right=14, row=116, middle=84, said=24, is_beside=False)


def ladder_svg(ladder: Ladder, look: Palette, width: float = WIDE, family: str = "inherit") -> str:
    """Empty while no cam has been read, else one row per cam: its readings against book and
    baseline, their intervals, the release tolerance, older readings as ghosts, and ticks at whole
    teeth. Crank degrees, late to the right. Letters keep their size at every width.
    """
    if not any(row.rungs for row in ladder.rows):
        return ""
    lay = layout_of(width)
    bottom = lay.top + lay.row * len(ladder.rows)
    span = ladder.high_deg - ladder.low_deg

    def at(deg: float) -> float:
        return lay.left + (deg - ladder.low_deg) / span * (width - lay.left - lay.right)

    tolerance = ladder.tolerance_deg
    band = at(tolerance) - at(-tolerance)
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:g} {bottom + 26:g}" '
        f'width="100%" font-family="{escape(family)}" role="img" '
        f'aria-label="{escape(spoken(ladder))}">',
        f'<rect x="{at(-tolerance):.1f}" y="{lay.top}" width="{band:.1f}" '
        f'height="{bottom - lay.top:g}" fill="{look.enamel_tint}"/>',
        _line(at(0), lay.top - 4, at(0), bottom, look.enamel, 2),
        _text(at(0), lay.top - 10, f"book ± {tolerance:g}°", 15, look.enamel, "middle", bold=True),
        *_scale(ladder, at, bottom + 17, width, look),
    ]
    for i, row in enumerate(ladder.rows):
        parts += _row(row, ladder, lay, lay.top + lay.row * i, at, look)
    return "".join(parts) + "</svg>"


def spoken(ladder: Ladder) -> str:
    """The drawing in words, for who cannot see it."""
    rows = "; ".join(f"{r.name} {r.last.words if r.last else 'not read'}" for r in ladder.rows)
    return f"Lateness of each cam: {rows}"


def _line(
    x1: float, y1: float, x2: float, y2: float, stroke: str, width: float, more: str = ""
) -> str:
    return (
        f'<line x1="{x1:.1f}" y1="{y1:.1f}" x2="{x2:.1f}" y2="{y2:.1f}" stroke="{stroke}" '
        f'stroke-width="{width:g}"{more}/>'
    )


def _text(
    x: float,
    y: float,
    words: str,
    size: float,
    fill: str,
    anchor: str = "start",
    bold: bool = False,
) -> str:
    weight = ' font-weight="700"' if bold else ""
    return (
        f'<text x="{x:.1f}" y="{y:.1f}" font-size="{size:g}" fill="{fill}" '
        f'text-anchor="{anchor}"{weight}>{escape(words)}</text>'
    )


def _scale(ladder: Ladder, at: Scale, y: float, width: float, look: Palette) -> list[str]:
    span = ladder.high_deg - ladder.low_deg
    step = 20 if span > 60 else 10 if span > 24 else 5
    first, last = math.ceil(ladder.low_deg / step), math.floor(ladder.high_deg / step)
    return [
        _text(at(n * step), y, late_words(n * step, 0) if n else "0", 13.5, look.soft, "middle")
        for n in range(first, last + 1)
        if LETTER_PX * 5 < at(n * step) < width - LETTER_PX * 4
    ]


def _row(
    row: LadderRow, ladder: Ladder, lay: Layout, top: float, at: Scale, look: Palette
) -> list[str]:
    middle = top + lay.middle
    dashes = ' stroke-dasharray="9 5"' if row.is_second_bank else ""
    named = top + lay.said - (2 if lay.is_beside else 0)
    parts = [
        _line(0, top, lay.width, top, look.line, 1),
        _text(0, named, row.title, 17, look.ink, bold=True),
        _text(0, named + 18, row.where, 15, look.soft),
        _line(lay.left, middle, lay.width - lay.right, middle, look.edge, 1.3, dashes),
    ]
    parts += _teeth(row, ladder, lay, middle, at, look)
    if row.baseline_deg is not None:
        x = at(row.baseline_deg)
        parts.append(
            _line(x, middle - 12, x, middle + 12, look.enamel, 3, ' stroke-dasharray="3 3"')
        )
    said = _said(row, top + lay.said, ladder.tolerance_deg, lay.width, look)
    edge = lay.width - lay.right + 20 if lay.is_beside else lay.width
    return parts + _rungs(row, middle, edge, at, look) + said


def _teeth(
    row: LadderRow, ladder: Ladder, lay: Layout, middle: float, at: Scale, look: Palette
) -> list[str]:
    """Where whole teeth lie, of each chain on the way: the smaller named below the line, the larger
    above it where there is room.
    """
    parts: list[str] = []
    places = [(n, i, tooth) for i, tooth in enumerate(row.teeth) for n in TEETH]
    for n, i, tooth in places:
        deg = n * tooth.deg
        if not ladder.low_deg < deg < ladder.high_deg:
            continue
        parts.append(
            f'<path d="M{at(deg) - 5:.1f} {middle:.1f} l3 -17 h4 l3 17" fill="none" '
            f'stroke="{look.soft}" stroke-width="1.5"/>'
        )
        words = counted(abs(n), "tooth", "teeth")
        is_named = lay.is_beside and n == 1 and len(row.teeth) > 1
        if is_named:
            words = f"{words}, {within(tooth.name)}"
        if i == 0 or (is_named and i == 1):
            x, anchor = (at(deg) + 5, "end") if is_named else (at(deg), "middle")
            long = WORD_PX * len(words)
            left = x - (long if is_named else long / 2)
            near, far = (16, 32) if i == 0 else (-22, -30)
            is_taken = _is_taken(row, left, left + long, at, is_above=i > 0)
            y = middle + (far if is_taken else near)
            parts.append(_text(x, y, words, 13.5, look.soft, anchor))
    return parts


def _is_taken(row: LadderRow, left: float, right: float, at: Scale, is_above: bool) -> bool:
    """Whether a reading, with its name, lies over what is between ``left`` and ``right``, px, above
    the line or below it.
    """
    for rung in row.shown:
        x, aside = at(rung.at_deg), _aside(rung, row.shown)
        named = LETTER_PX * len(_name(rung)) if aside else 0.0
        if (aside < 0) == is_above and x - MARK_PX < right and x + MARK_PX + named > left:
            return True
    return False


def _name(rung: Rung) -> str:
    return f"{'after ' if rung.phase == Phase.AFTER else ''}R{rung.reading}"


def _rungs(row: LadderRow, middle: float, right: float, at: Scale, look: Palette) -> list[str]:
    """Older readings as ghosts; the newest of each phase with its interval; the worst ringed."""
    shown, last = row.shown, row.last
    parts = [
        f'<rect x="{at(r.at_deg) - 4:.1f}" y="{middle - 4:.1f}" width="8" height="8" fill="none" '
        f'stroke="{look.blue}" opacity="0.35"/>'
        for r in row.rungs
        if r.is_ghost
    ]
    for rung in shown:
        y = middle + _aside(rung, shown)
        is_ringed = row.is_worst and rung is last
        below = y > middle
        parts += _mark(rung, y, right, at, look, row.role != "exhaust", is_ringed, below)
    if row.is_worst and last is not None:
        y = middle + _aside(last, shown)
        parts.append(
            f'<circle cx="{at(last.at_deg):.1f}" cy="{y:.1f}" r="17" fill="none" '
            f'stroke="{look.pen}" stroke-width="5"/>'
        )
    return parts


def _aside(rung: Rung, shown: list[Rung]) -> float:
    """How far off the middle a reading lies where there is one before and one after."""
    if len(shown) < 2:
        return 0.0
    return 9.0 if rung.phase == Phase.AFTER else -11.0


def _mark(
    rung: Rung,
    y: float,
    right: float,
    at: Scale,
    look: Palette,
    is_solid: bool,
    is_ringed: bool,
    is_below: bool,
) -> list[str]:
    """A reading with its interval and its name, which the row's line does not strike through."""
    x, fill = at(rung.at_deg), look.blue if is_solid else look.sheet
    parts = [
        f"<g><title>{escape(f'{rung.phase} the repair: {rung.words}')}</title>",
        _line(at(rung.low_deg), y, at(rung.high_deg), y, look.blue, 3),
        f'<path d="M{x:.1f} {y - 9:.1f} l9 9 l-9 9 l-9 -9 z" fill="{fill}" stroke="{look.blue}" '
        'stroke-width="2.5"/>',
    ]
    words = _name(rung)
    aside = 21 if is_ringed else MARK_PX
    is_room = x + aside + LETTER_PX * len(words) < right
    put, anchor = (x + aside, "start") if is_room else (x - aside, "end")
    return [*parts, _text(put, y + (7 if is_below else -6), words, 13.5, look.blue, anchor), "</g>"]


def _said(row: LadderRow, y: float, tolerance: float, right: float, look: Palette) -> list[str]:
    """The newest reading in figures at the right, what is to know of it, and how far it is."""
    last = row.last
    if last is None:
        return [_text(right, y + 4, "unknown", 17, look.soft, "end")]
    if not last.is_known:
        words = f"? {last.low_deg:.0f}° to {last.high_deg:.0f}°"
        return [
            _text(right, y, words, 22, look.ochre, "end", bold=True),
            _text(right, y + 30, row.note, 13.5, look.soft, "end"),
        ]
    colour = look.red if last.is_out else look.blue
    size, way = late_parts(last.at_deg)
    return [
        f'<text x="{right:.1f}" y="{y:.1f}" text-anchor="end" fill="{colour}" font-size="27" '
        f'font-weight="700">{escape(size)}<tspan font-size="17" font-weight="400"> '
        f"{way}</tspan></text>",
        gauge_svg(right - GAUGE_PX, y + 7, abs(last.at_deg) / tolerance, last.is_out, look),
        _text(right, y + 32, row.note, 13.5, look.soft, "end"),
    ]


def gauge_svg(x: float, y: float, share: float, is_over: bool, look: Palette) -> str:
    """A gauge notch: a bar that grows towards a tick, the limit, and past it when over."""
    notch = GAUGE_PX * 0.78
    long = min(GAUGE_PX, share * notch)
    return (
        f'<path d="M{x:.1f} {y + 7:.1f}h{GAUGE_PX:g}" stroke="{look.line}" stroke-width="1"/>'
        f'<rect x="{x:.1f}" y="{y + 1:.1f}" width="{long:.1f}" height="6" '
        f'fill="{look.red if is_over else look.steel_light}"/>'
        f'<path d="M{x + notch:.1f} {y - 2:.1f}v11" stroke="{look.ink}" stroke-width="2"/>'
    )
