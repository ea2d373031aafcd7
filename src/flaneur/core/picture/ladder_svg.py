"""The lateness ladder as a picture: one drawing, in the colours of the screen or of paper."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from html import escape

from flaneur.core.measuring.kinds import Phase
from flaneur.core.picture.ladder import Ladder, LadderRow, Rung
from flaneur.core.wording import late_words

WIDTH, LEFT, RIGHT, ROW, TOP = 780.0, 150.0, 168.0, 70.0, 28.0
TEETH = (-1, 1, 2, 3)
Scale = Callable[[float], float]


@dataclass(frozen=True, kw_only=True)
class Palette:
    """Colours of a drawing, as SVG takes them."""

    ink: str
    soft: str
    line: str
    sheet: str
    enamel: str
    tint: str
    blue: str
    red: str
    ochre: str
    pen: str


SCREEN = Palette(
    ink="var(--ink)",
    soft="var(--soft)",
    line="var(--line)",
    sheet="var(--sheet)",
    enamel="var(--enamel)",
    tint="var(--enamel-tint)",
    blue="var(--blue)",
    red="var(--red)",
    ochre="var(--ochre)",
    pen="var(--pen)",
)
PAPER = Palette(
    ink="#14201D",
    soft="#44534E",
    line="#B9C4BF",
    sheet="#FFFFFF",
    enamel="#2F5D50",
    tint="#DCE6E1",
    blue="#1F4FA3",
    red="#A61F18",
    ochre="#7A4F00",
    pen="#F2C230",
)


def ladder_svg(ladder: Ladder, look: Palette) -> str:
    """Empty while no cam has been read, else one row per cam: its readings against book and
    baseline, their intervals, the release tolerance, older readings as ghosts, and ticks at whole
    teeth. Crank degrees, late to the right.
    """
    if not any(row.rungs for row in ladder.rows):
        return ""
    bottom = TOP + ROW * len(ladder.rows)
    span = ladder.high_deg - ladder.low_deg

    def at(deg: float) -> float:
        return LEFT + (deg - ladder.low_deg) / span * (WIDTH - LEFT - RIGHT)

    tolerance = ladder.tolerance_deg
    band = at(tolerance) - at(-tolerance)
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {bottom + 26:g}" '
        f'width="100%" font-family="sans-serif" role="img" aria-label="{escape(spoken(ladder))}">',
        f'<rect x="{at(-tolerance):.1f}" y="{TOP}" width="{band:.1f}" height="{bottom - TOP:g}" '
        f'fill="{look.tint}"/>',
        _line(at(0), TOP - 4, at(0), bottom, look.enamel, 2),
        _text(at(0), TOP - 10, f"book ± {tolerance:g}°", 13, look.enamel, "middle", bold=True),
        *_scale(ladder, at, bottom + 16, look),
    ]
    for i, row in enumerate(ladder.rows):
        parts += _row(row, ladder, TOP + ROW * i, at, look)
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


def _scale(ladder: Ladder, at: Scale, y: float, look: Palette) -> list[str]:
    span = ladder.high_deg - ladder.low_deg
    step = 20 if span > 60 else 10 if span > 24 else 5
    first, last = math.ceil(ladder.low_deg / step), math.floor(ladder.high_deg / step)
    return [
        _text(at(n * step), y, late_words(n * step, 0) if n else "0", 12, look.soft, "middle")
        for n in range(first, last + 1)
    ]


def _row(row: LadderRow, ladder: Ladder, top: float, at: Scale, look: Palette) -> list[str]:
    middle = top + ROW / 2
    dashes = ' stroke-dasharray="7 4"' if row.is_second_bank else ""
    parts = [
        _line(0, top, WIDTH, top, look.line, 1),
        _text(0, middle - 3, row.title, 16, look.ink, bold=True),
        _text(0, middle + 17, row.where, 13, look.soft),
        _line(LEFT, middle, WIDTH - RIGHT, middle, look.line, 1, dashes),
    ]
    for teeth in TEETH:
        deg = teeth * row.tooth_deg
        if ladder.low_deg < deg < ladder.high_deg:
            words = f"{abs(teeth)} {'tooth' if abs(teeth) == 1 else 'teeth'}"
            parts += [
                f'<path d="M{at(deg) - 5:.1f} {middle + 16:.1f} l3 -26 h4 l3 26" fill="none" '
                f'stroke="{look.soft}" stroke-width="1.5"/>',
                _text(at(deg), middle + 29, words, 11, look.soft, "middle"),
            ]
    if row.baseline_deg is not None:
        x = at(row.baseline_deg)
        parts.append(
            _line(x, middle - 12, x, middle + 12, look.enamel, 3, ' stroke-dasharray="3 3"')
        )
    return parts + _rungs(row, middle, at, look) + _said(row, middle, look)


def _rungs(row: LadderRow, middle: float, at: Scale, look: Palette) -> list[str]:
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
        parts += _mark(rung, y, at, look, row.role != "exhaust", is_ringed)
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
    rung: Rung, y: float, at: Scale, look: Palette, is_solid: bool, is_ringed: bool
) -> list[str]:
    x, fill = at(rung.at_deg), look.blue if is_solid else look.sheet
    parts = [
        f"<g><title>{escape(f'{rung.phase} the repair: {rung.words}')}</title>",
        _line(at(rung.low_deg), y, at(rung.high_deg), y, look.blue, 3),
        f'<path d="M{x:.1f} {y - 9:.1f} l9 9 l-9 9 l-9 -9 z" fill="{fill}" stroke="{look.blue}" '
        'stroke-width="2.5"/>',
    ]
    after = "after " if rung.phase == Phase.AFTER else ""
    return [
        *parts,
        _text(x + (23 if is_ringed else 13), y + 5, f"{after}R{rung.reading}", 11, look.blue),
        "</g>",
    ]


def _said(row: LadderRow, middle: float, look: Palette) -> list[str]:
    """The newest reading in figures at the right, and what is to know of it."""
    last, right = row.last, WIDTH - 2
    if last is None:
        return [_text(right, middle + 6, "unknown", 16, look.soft, "end")]
    if not last.is_known:
        words = f"? {last.low_deg:.0f}° to {last.high_deg:.0f}°"
        return [
            _text(right, middle + 4, words, 20, look.ochre, "end", bold=True),
            _text(right, middle + 22, row.note, 12, look.soft, "end"),
        ]
    colour = look.red if last.is_out else look.blue
    return [
        _text(right, middle + 4, late_words(last.at_deg), 25, colour, "end", bold=True),
        _text(right, middle + 22, row.note, 12, look.soft, "end"),
    ]
