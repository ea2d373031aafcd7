"""The state of each part as the drive face shows it: a word for every colour."""

from typing import Literal

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Verdict

State = Literal["unknown", "within limit", "suspected", "over the limit", "to renew", "renewed"]


def part_states(
    book: EngineBook, verdict: Verdict | None, renewed: list[str], fitted: set[str]
) -> dict[str, State]:
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
    states: dict[str, State] = dict.fromkeys(parts, "unknown")
    if verdict is not None and verdict.readings_used:
        for wear in verdict.wear:
            if wear.judged == "within the limit":
                states[wear.key] = "within limit"
            elif wear.judged == "over the limit":
                states[wear.key] = "over the limit"
        for suspect in verdict.suspects:
            part = suspect.part.split("/")[-1]
            if suspect.probability > 0.5 and part in states and states[part] != "over the limit":
                states[part] = "suspected"
    for component in renewed:
        part = book.components[component].part
        if part in states:
            states[part] = "renewed" if component in fitted else "to renew"
    return states
