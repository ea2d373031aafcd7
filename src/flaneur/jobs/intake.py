"""The intake: what the owner says, and the engine's hours."""

from typing import Any

from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import at_field
from flaneur.core.job.change import Change
from flaneur.core.readings.intake import codes_of
from flaneur.core.readings.renewed import check_replaced, replaced_words
from flaneur.jobs.work import Work
from flaneur.store.tables import JournalEntry


def write_intake(work: Work, told: dict[str, Any]) -> JournalEntry:
    """Write the intake down; running hours and hours it stood accept a unit. Raises ReadingError
    for hours that cannot be read.
    """
    before = dict(work.job.intake)
    typed = str(told["hours"]).strip()
    with at_field("hours"):
        hours = parse_quantity(typed, "hours", "h").value if typed else None
    stood = str(told["standing_hours"]).strip()
    with at_field("standing_hours"):
        stood_h = parse_quantity(stood, "hours", "h").value if stood else None
    with at_field("codes"):
        codes = codes_of(str(told.get("codes", "")))
    parts = [str(part) for part in told.get("replaced_parts", [])]
    # Without parts nobody is asked when: what may still stand there says nothing.
    then = str(told.get("replaced_at", "")).strip() if parts else ""
    with at_field("replaced_at"):
        then_h = parse_quantity(then, "hours", "h").value if then else None
    check_replaced(work.book, parts, hours, then_h)
    stood = "" if stood_h is None else f"{stood_h:g} h"
    values = {
        **told,
        "replaced_parts": parts,
        "replaced_at": then,
        "hours_typed": typed,
        "hours": hours,
        "standing_hours": stood,
    }
    values |= {"stood_h": stood_h, "code_list": codes, "replaced_at_h": then_h}
    work.job.intake = values
    words = f"Complaint: {str(told['complaint']).strip().rstrip('.') or 'none written'}."
    if stood:
        words += f" Stood {stood} before."
    if put_in := replaced_words(work.book, values):
        words += f" Replaced before: {put_in}."
    return work.record(Change.INTAKE, words, {"before": before, "after": values})


def shown_hours(intake: dict[str, Any]) -> str:
    """Running hours as they are shown to be typed over."""
    typed, hours = intake.get("hours_typed"), intake.get("hours")
    if isinstance(typed, str) and typed:
        return typed
    return f"{hours:g} h" if isinstance(hours, int | float) else ""
