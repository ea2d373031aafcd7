"""Torque–angle traces of the bolts of one step as a small picture for paper."""

from collections.abc import Sequence

import numpy as np

from flaneur.core.fasteners.trace import Trace
from flaneur.core.picture.theme import Palette

WIDE, TALL, LEFT, BOTTOM, TOP = 260.0, 130.0, 34.0, 20.0, 8.0
POINTS = 160


def traces_svg(traces: Sequence[tuple[Trace, bool]], look: Palette) -> str:
    """Torque over angle of every bolt, those that are ``sound`` in the house's colour and thin, the
    others thick and red; empty for none.
    """
    if not traces:
        return ""
    most_deg = max(float(np.max(t.angle_deg)) for t, _ in traces) or 1.0
    most_nm = max(float(np.max(t.torque_nm)) for t, _ in traces) or 1.0

    def line(trace: Trace, is_sound: bool) -> str:
        every = max(1, len(trace.angle_deg) // POINTS)
        turned = np.clip(trace.angle_deg[::every] / most_deg, 0, 1)
        held = np.clip(trace.torque_nm[::every] / most_nm, 0, 1)
        x, y = LEFT + (WIDE - LEFT - 6) * turned, TALL - BOTTOM - (TALL - BOTTOM - TOP) * held
        points = " ".join(f"{a:.1f},{b:.1f}" for a, b in zip(x, y, strict=True))
        colour, width = (look.enamel, 1.0) if is_sound else (look.red, 2.0)
        return f'<polyline points="{points}" fill="none" stroke="{colour}" stroke-width="{width}"/>'

    # What is not sound is drawn last: nothing lies over it.
    lines = [line(t, ok) for t, ok in sorted(traces, key=lambda one: not one[1])]
    small = f'font-size="9" fill="{look.soft}"'
    return (
        f'<svg viewBox="0 0 {WIDE:g} {TALL:g}" role="img" aria-label="Torque over angle">'
        f'<path d="M{LEFT:g} {TOP:g}V{TALL - BOTTOM:g}H{WIDE - 6:g}" fill="none" '
        f'stroke="{look.line}"/>'
        f'<text x="{LEFT - 4:g}" y="{TOP + 7:g}" text-anchor="end" {small}>{most_nm:.0f} Nm</text>'
        f'<text x="{LEFT - 4:g}" y="{TALL - BOTTOM:g}" text-anchor="end" {small}>0</text>'
        f'<text x="{WIDE - 6:g}" y="{TALL - 6:g}" text-anchor="end" {small}>{most_deg:.0f}°</text>'
        + "".join(lines)
        + "</svg>"
    )
