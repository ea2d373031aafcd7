"""The lateness ladder as a picture for paper."""

from collections.abc import Callable
from html import escape

from flaneur.core.proof.ladder import Ladder, LadderRow, Rung

WIDTH, ROW, LEFT, RIGHT, TOP = 720.0, 44.0, 165.0, 130.0, 26.0
Scale = Callable[[float], float]
INK, BLUE, ENAMEL, FAINT = "#14201D", "#1F4FA3", "#2F5D50", "#9AA8A3"


def ladder_svg(ladder: Ladder) -> str:
    """SVG of before (open) and after (solid) per cam, with tolerance band and whole-tooth ticks."""
    height = TOP + ROW * len(ladder.rows) + 30
    span = ladder.high_deg - ladder.low_deg

    def x(deg: float) -> float:
        return LEFT + (deg - ladder.low_deg) / span * (WIDTH - LEFT - RIGHT)

    bottom = TOP + ROW * len(ladder.rows)
    t = ladder.tolerance_deg
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH:g} {height:g}" width="100%" '
        'font-family="sans-serif" font-size="10">',
        f'<rect x="{x(-t):.1f}" y="{TOP}" width="{x(t) - x(-t):.1f}" height="{bottom - TOP}" '
        f'fill="{ENAMEL}" fill-opacity="0.13"/>',
        f'<line x1="{x(0):.1f}" x2="{x(0):.1f}" y1="{TOP}" y2="{bottom}" stroke="{ENAMEL}"/>',
        f'<text x="{x(0):.1f}" y="{TOP - 8}" text-anchor="middle" fill="{INK}">book</text>',
        f'<text x="{LEFT}" y="{bottom + 20}" fill="{INK}">early</text>',
        f'<text x="{WIDTH - RIGHT}" y="{bottom + 20}" text-anchor="end" fill="{INK}">late, crank '
        "degrees</text>",
    ]
    for i, row in enumerate(ladder.rows):
        parts += _row(row, ladder, TOP + ROW * i, x)
    return "".join(parts) + "</svg>"


def _row(row: LadderRow, ladder: Ladder, top: float, at: Scale) -> list[str]:
    middle = top + ROW / 2
    parts = [
        f'<text x="4" y="{middle + 3:.1f}" fill="{INK}">{escape(row.name)}</text>',
        f'<line x1="{at(ladder.low_deg):.1f}" x2="{at(ladder.high_deg):.1f}" y1="{middle}" '
        f'y2="{middle}" '
        f'stroke="{FAINT}" stroke-width="0.6"/>',
    ]
    for teeth in (-1, 1, 2, 3):
        deg = teeth * row.tooth_deg
        if ladder.low_deg < deg < ladder.high_deg:
            parts.append(
                f'<line x1="{at(deg):.1f}" x2="{at(deg):.1f}" y1="{middle - 9}" y2="{middle + 9}" '
                f'stroke="{INK}" stroke-width="1.4"/>'
                f'<text x="{at(deg) + 3:.1f}" y="{middle - 11}" font-size="8" '
                f'fill="{INK}">{abs(teeth)} tooth</text>'
            )
    for rung in row.rungs:
        if not rung.is_ghost:
            parts += _rung(rung, middle, at)
    return parts


def _rung(rung: Rung, middle: float, at: Scale) -> list[str]:
    after = rung.phase == "after"
    y = middle + (7 if after else -7)
    fill = BLUE if after else "#fff"
    low, high, here = (at(v) for v in (rung.low_deg, rung.high_deg, rung.at_deg))
    note = f"{rung.phase} {rung.at_deg:+.1f}°{'' if rung.is_known else ' ?'}"
    return [
        f'<line x1="{low:.1f}" x2="{high:.1f}" y1="{y}" y2="{y}" stroke="{BLUE}" '
        'stroke-width="2"/>',
        f'<rect x="{here - 4:.1f}" y="{y - 4:.1f}" width="8" height="8" fill="{fill}" '
        f'stroke="{BLUE}" stroke-width="1.6"/>',
        f'<text x="{WIDTH - RIGHT + 6}" y="{y + 3:.1f}" fill="{BLUE}">{note} '
        f"R{escape(rung.reading)}</text>",
    ]
