"""Torque programs: what each stage asks and whether what was applied meets it."""

from dataclasses import dataclass

from flaneur.core.book.tasks import Fastener, Stage
from flaneur.core.book.units import LBF_FT_NM, LBF_IN_NM, parse_quantity, unit_of
from flaneur.core.errors import ReadingError


@dataclass(frozen=True)
class Applied:
    """An applied stage in N·m or degrees, whether it meets the book, and the words that say so."""

    value: float
    ok: bool
    words: str


def stage_words(stage: Stage) -> str:
    """How a stage is asked for, with both foot and inch pounds spelled out where torque is
    meant.
    """
    if stage.kind == "torque":
        small = stage.value < 15
        other = (
            f"{stage.value / LBF_IN_NM:.0f} lbf·in"
            if small
            else f"{stage.value / LBF_FT_NM:.0f} lbf·ft"
        )
        return f"{stage.value:g} Nm ± {stage.tolerance:g} ({other})"
    what = "turn on by" if stage.kind == "angle" else "back off by"
    return f"{what} {stage.value:g}° ± {stage.tolerance:g}°"


def size_words(fastener: Fastener) -> str:
    """Thread, lengths and surface of fasteners in brackets, as far as the book says them."""
    lengths = " and ".join(f"{mm:g}" for mm in fastener.lengths_mm)
    size = " × ".join(
        part for part in (fastener.thread, f"{lengths} mm" if lengths else None) if part
    )
    surface = {"oiled": "thread oiled", "threadlocker": "threadlocker"}.get(fastener.surface or "")
    said = ", ".join(part for part in (size, surface or fastener.surface) if part)
    return f" ({said})" if said else ""


def check_stage(stage: Stage, text: str) -> Applied:
    """Compare what was typed ("24 Nm", "18 lbf ft", "90") with a stage; a bare number has the unit
    the field shows, Nm or degrees. Raises ReadingError without a number.

    A torque about 12 times off is named as a likely mix-up of lbf·ft and lbf·in.
    """
    if stage.kind == "torque":
        value = parse_quantity(text, "torque", unit_of("torque")).value
        unit = "Nm"
    else:
        value = parse_quantity(text, "angle", "deg").value
        unit = "°"
    if value <= 0:
        raise ReadingError("This cannot have been applied.", read=text, expected=stage_words(stage))
    off = value - stage.value
    ok = abs(off) <= stage.tolerance + 1e-9
    if ok:
        return Applied(
            value, True, f"{value:.3g} {unit}, within {stage.value:g} ± {stage.tolerance:g} {unit}."
        )
    words = (
        f"{value:.3g} {unit} is {abs(off):.3g} {unit} {'over' if off > 0 else 'under'} the "
        f"book's {stage.value:g} {unit}."
    )
    ratio = max(value / stage.value, stage.value / value)
    if stage.kind == "torque" and 9 < ratio < 15:
        words += " That is about twelve times off: were lbf·ft and lbf·in mixed up?"
    return Applied(value, False, words)
