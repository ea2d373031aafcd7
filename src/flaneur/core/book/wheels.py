"""Tone wheels as lists of events: at which crank angle each of them passes its sensor."""

from flaneur.core.book.schema import EdgeWheel, GapWheel, VaneWheel


def gap_places(wheel: GapWheel) -> list[int]:
    """Places round the wheel that carry a tooth, counted from the first tooth after the last
    gap.
    """
    empty = set(range(wheel.teeth - wheel.missing, wheel.teeth))
    for gap in wheel.more_gaps:
        empty |= set(range(gap.after, gap.after + gap.missing))
    return [place for place in range(wheel.teeth) if place not in empty]


def crank_teeth_deg(wheel: GapWheel | EdgeWheel) -> list[tuple[float, float]]:
    """Rising and falling edge of each crank tooth, degrees, rising over one turn from the first
    tooth on.
    """
    if isinstance(wheel, EdgeWheel):
        return list(wheel.teeth_deg)
    pitch = 360.0 / wheel.teeth
    first, wide = wheel.first_tooth_deg, pitch * wheel.tooth_fraction
    return [(first + pitch * k, first + pitch * k + wide) for k in gap_places(wheel)]


def crank_events_deg(wheel: GapWheel | EdgeWheel) -> list[float]:
    """Active events of one turn: rising edges of a Hall wheel, zero crossings of a reluctor.

    A reluctor given tooth by tooth crosses zero over the middle of each tooth; a gap wheel's
    ``first_tooth_deg`` is the crossing itself.
    """
    if wheel.sensor == "vr" and isinstance(wheel, EdgeWheel):
        return [(rise + fall) / 2 for rise, fall in wheel.teeth_deg]
    return [rise for rise, _ in crank_teeth_deg(wheel)]


def cam_events_deg(wheel: VaneWheel) -> list[tuple[float, bool]]:
    """Events of one cycle with their direction; a reluctor's crossings all count as rising."""
    if wheel.sensor == "vr":
        return [((rise + fall) / 2, True) for rise, fall in wheel.vanes_deg]
    return [
        (edge, i % 2 == 0) for i, edge in enumerate(e for vane in wheel.vanes_deg for e in vane)
    ]
