"""From a verdict to a proposed scope of renewal."""

from typing import Literal

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Suspect, Verdict, percent
from flaneur.core.keys import SuspectKey, SuspectKind

School = Literal["measured", "whole_set"]
LIKELY = 0.5
RENEWED = (SuspectKind.WEAR, SuspectKind.GONE, SuspectKind.JUMP)
ALONE = (  # renewed by itself, by either school
    SuspectKind.PHASER,
    SuspectKind.SLOW,
    SuspectKind.DRIFTS,
    SuspectKind.HUNTS,
    SuspectKind.LOCK_PIN,
    SuspectKind.LEAK,
    SuspectKind.STUCK,
)


class Proposal(BaseModel):
    """A component proposed for renewal and why; ``is_kept``: to be set right as it is."""

    model_config = ConfigDict(frozen=True)

    component: str
    name: str
    reason: str
    is_kept: bool = False


def propose(book: EngineBook, verdict: Verdict, school: School) -> list[Proposal]:
    """Components for every suspect likelier than not; ``whole_set`` adds the rest of that chain's
    set. A chain that only jumped is set right: nothing of it is renewed.
    """
    if not verdict.readings_used:
        return []  # what is usual at an age is no reason to open an engine
    reasons: dict[str, str] = {}
    renewed: set[str] = set()
    for suspect in verdict.suspects:
        if suspect.probability <= LIKELY or suspect.kind not in (*RENEWED, *ALONE):
            continue
        for part in _parts(book, suspect, school):
            component = next((k for k, c in book.components.items() if c.part == part), None)
            if component is not None:
                reasons.setdefault(component, f"{suspect.name} ({percent(suspect.probability)})")
                if suspect.kind is not SuspectKind.JUMP or school == "whole_set":
                    renewed.add(component)
    return [
        Proposal(
            component=c,
            name=book.components[c].name,
            reason=reasons[c],
            is_kept=c not in renewed,
        )
        for c in book.components
        if c in reasons
    ]


def _parts(book: EngineBook, suspect: Suspect, school: School) -> list[str]:
    part = SuspectKey(suspect.kind, suspect.part).parts[0]
    if suspect.kind in ALONE:
        return [part]
    chain = part if part in book.chains else (book.guides.get(part) or book.arms[part]).chain
    if school == "whole_set":
        arm = book.arm_of(chain)
        guides = [k for k, g in book.guides.items() if g.chain == chain]
        return [chain, *guides, *([arm, book.arms[arm].tensioner] if arm else [])]
    return [part]
