"""The state of each part as the drive face shows it: a code for every colour, and its word."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded
from flaneur.core.diagnosis.verdict import LIKELY, Verdict, WearState
from flaneur.core.keys import SuspectKey


class PartState(Worded):
    """What is known of a part, or being done with it."""

    UNKNOWN = "unknown", "unknown"
    WITHIN = "within", "within limit"
    SUSPECTED = "suspected", "suspected"
    OVER = "over", "over the limit"
    TO_RENEW = "to_renew", "to renew"
    RENEWED = "renewed", "renewed"


_OF_WEAR = {WearState.WITHIN: PartState.WITHIN, WearState.OVER: PartState.OVER}


def part_states(
    book: EngineBook, verdict: Verdict | None, renewed: list[str], fitted: set[str]
) -> dict[str, PartState]:
    """State per part of the drive: chains, guides, arms, tensioners, phasers and sprockets with a
    jumped contact.

    ``renewed`` are components the plan renews, ``fitted`` those already fitted on the bench.
    """
    parts = [
        *book.chains,
        *book.guides,
        *book.arms,
        *book.tensioners,
        *book.phasers,
        *book.sprockets,
    ]
    states: dict[str, PartState] = dict.fromkeys(parts, PartState.UNKNOWN)
    if verdict is not None and verdict.readings_used:
        states |= {w.key: _OF_WEAR[w.state] for w in verdict.wear if w.state in _OF_WEAR}
        for suspect in verdict.suspects:
            for part in SuspectKey(suspect.kind, suspect.part).parts[-1:]:
                is_likely = suspect.probability > LIKELY and part in states
                if is_likely and states[part] is not PartState.OVER:
                    states[part] = PartState.SUSPECTED
    for component in renewed:
        part = book.components[component].part
        if part in states:
            states[part] = PartState.RENEWED if component in fitted else PartState.TO_RENEW
    return states
