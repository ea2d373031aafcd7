"""Points of no return along a plan: from there on the engine cannot be closed again as it was."""

from collections.abc import Collection, Iterable

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.ground import task_of
from flaneur.core.wording import within


def no_returns(
    book: EngineBook, refs: Iterable[str], locked_out: Collection[str] = ()
) -> dict[str, str]:
    """What is lost at a step, by its reference: the setting of each timed chain, bolts that only
    hold once, a phaser that is locked out.
    """
    train = DriveTrain(book)
    timed = {c for c in train.chains if train.times_cams(c)}
    told: dict[str, list[str]] = {}
    loose, undone = set[str](), set[str]()
    for ref in refs:
        verb, key = StepRef.of(ref)
        if verb is Verb.TORQUE:
            continue
        for chain in sorted(_let_go(book, ref, verb, key) & timed - loose):
            loose.add(chain)
            name = within(book.chains[chain].name)
            told.setdefault(ref, []).append(
                f"The {name} is only set anew at its marks from here on."
            )
        opened = {key} if verb is Verb.REMOVE else _loosened(book, ref)
        for component in sorted(opened - undone):
            undone.add(component)
            once = [f for f in book.components[component].fasteners if book.fasteners[f].one_use]
            told.setdefault(ref, []).extend(
                f"{book.fasteners[f].name}: undone once, it is renewed." for f in once
            )
        if verb is Verb.FIT and key in locked_out:
            name = book.components[key].name
            told.setdefault(ref, []).append(f"{name} is opened: it moves no cam any more.")
    return {ref: " ".join(words) for ref, words in told.items() if words}


def _let_go(book: EngineBook, ref: str, verb: Verb, key: str) -> set[str]:
    """Chains that a step takes off or leaves without tension."""
    task = task_of(book, ref)
    found = {*task.effects.slackens, *task.effects.chains_off} if task else set[str]()
    part = book.components[key].part if verb is Verb.REMOVE else None
    if part in book.chains:
        found.add(part)
    return found | {a.chain for k, a in book.arms.items() if part in (k, a.tensioner)}


def _loosened(book: EngineBook, ref: str) -> set[str]:
    task = task_of(book, ref)
    return set(task.effects.loosened) & set(book.components) if task else set()
