"""All that a job knows of one part: what the verdict says of it, what was read on it, what is
planned and done.
"""

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Verdict, percent
from flaneur.core.drive.facts import Fact
from flaneur.core.keys import StepRef, SuspectKey, SuspectKind, Verb

WORTH_SAYING = 0.02
SAID = {Verb.REMOVE: "taken off", Verb.FIT: "fitted", Verb.TORQUE: "torqued"}


def verdict_facts(verdict: Verdict, part: str) -> list[Fact]:
    """Wear of a part against its limit, and the suspects it is. Before any reading: unknown."""
    if not verdict.readings_used:
        return [Fact(label="Verdict", value="unknown: no readings yet")]
    facts = [
        Fact(
            label="Wear",
            value=f"{w.median:.2f} {w.unit}, 90 % between {w.low:.2f} and {w.high:.2f}; limit "
            f"{w.limit:g} {w.unit}: {w.judged}",
        )
        for w in verdict.wear
        if w.key == part
    ]
    for suspect in verdict.suspects:
        if (
            part in SuspectKey(suspect.kind, suspect.part).parts
            and suspect.kind is not SuspectKind.WEAR
            and suspect.probability >= WORTH_SAYING
        ):
            detail = f", {suspect.detail}" if suspect.detail else ""
            facts.append(
                Fact(
                    label="Suspected",
                    value=f"{suspect.name}{detail}: {percent(suspect.probability)}",
                )
            )
    return facts


def read_on(book: EngineBook, part: str) -> set[str]:
    """What readings on a part are filed under: itself, its shaft, or the chain its plunger belongs
    to.
    """
    names = {part}
    if part in book.sprockets:
        names.add(book.sprockets[part].shaft)
    if part in book.phasers:
        names.add(book.phasers[part].shaft)
    names |= {arm.chain for arm in book.arms.values() if arm.tensioner == part}
    return names


def work_facts(
    book: EngineBook, part: str, access: list[str], renewed: list[str], done: set[str]
) -> list[Fact]:
    """What the plan does with a part, and how far the bench is with it."""
    facts: list[Fact] = []
    for key, component in book.components.items():
        if component.part != part or key not in access:
            continue
        value = "is renewed" if key in renewed else "comes off and goes back on"
        steps = [verb for verb in SAID if str(StepRef(verb, key)) in done]
        facts.append(
            Fact(label="Plan", value=f"{value}; {', '.join(SAID[s] for s in steps) or 'not begun'}")
        )
    return facts
