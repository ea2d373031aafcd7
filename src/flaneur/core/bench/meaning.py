"""What an answer that is not right means: teeth, links and torques put into what they do."""

from collections.abc import Sequence

from flaneur.core.bench.answers import Seen
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Stage
from flaneur.core.clearance.off import valves_off
from flaneur.core.drive.counts import shifted_counts
from flaneur.core.drive.off import one_tooth_off
from flaneur.core.drive.train import DriveTrain
from flaneur.core.engine.compiled import compiled
from flaneur.core.fasteners.program import check_stage
from flaneur.core.keys import MARK_READ, Contact
from flaneur.core.measuring.marks import allowed_deg, shaft_of, tooth_at
from flaneur.core.plan.steps import ALIGNMENT, NOT_MEASURED, Asked, AskedKind, PlanStep
from flaneur.core.wording import counted

# What is answered where turning by hand comes to a hard stop.
HARD_STOP = "stop"
TEETH = (-2, -1, 1, 2)
# Scatter of the clamp force for one torque, from friction alone.
FRICTION_PCT = 25


def meanings(book: EngineBook, step: PlanStep, seen: Sequence[Seen]) -> list[str]:
    """What those answers of a step that are not right mean, one line each; a tooth seen at a mark
    and found by counting is said once.
    """
    teeth = {s.contact: s.teeth for s in seen if s.contact and s.teeth}
    lines = [tooth_meaning(book, contact, off) for contact, off in teeth.items()]
    if not teeth:
        lines += links_meaning(book, step, seen)
    for asked, answer in zip(step.asked, seen, strict=True):
        if not answer.ok and asked.stage is not None:
            lines.append(torque_meaning(book, asked, asked.stage, answer))
        elif not answer.ok and asked.kind is AskedKind.COUNT and asked.fastener:
            lines.append(
                "Find the missing one before the engine turns: loose in the drive, it locks a "
                "chain."
            )
    lines += marks_meaning(book, step, seen)
    if _has_moved(step, seen):
        lines.append(
            "The bolt dragged the cam along while it was tightened. Slacken it, bring the mark "
            "back, hold the cam and go through its stages again."
        )
    return lines


def _has_moved(step: PlanStep, seen: Sequence[Seen]) -> bool:
    """Whether a mark moved while a bolt was tightened."""
    return any(a.code == ALIGNMENT and not s.ok for a, s in zip(step.asked, seen, strict=True))


def tooth_meaning(book: EngineBook, contact: str, teeth: int) -> str:
    """What teeth off at ``chain/sprocket`` do to cams and valves."""
    off = one_tooth_off(book, contact, teeth)
    late = {c.name: c.late_deg for c in off.cams if abs(c.late_deg) > 0.05}
    cams = ", ".join(
        f"{name} {abs(deg):.1f}° {'late' if deg > 0 else 'early'}" for name, deg in late.items()
    )
    valves = valves_off(book, {c.cam: c.late_deg for c in off.cams})
    touch = (
        f" Valves would touch: {valves.bent[0]}"
        if valves.bent
        else " By the book's figures no valve touches."
        if valves.clear and not valves.unknown
        else " Whether valves touch is not known."
    )
    return f"{off.words}: {cams or off.does_not_show}.{touch}"


def links_meaning(book: EngineBook, step: PlanStep, seen: Sequence[Seen]) -> list[str]:
    """What links counted wrong in a step that lays a chain mean: the one tooth that gives these
    counts, where there is one.
    """
    chain = book.components[step.about].part if step.about in book.components else None
    if chain not in book.chains or all(s.ok for s in seen if s.kind is AskedKind.COUNT):
        return []
    asked = [
        (a.expected, int(s.typed))
        for a, s in zip(step.asked, seen, strict=True)
        if a.kind is AskedKind.COUNT and not a.fastener
    ]
    expected, found = [e for e, _ in asked], [f for _, f in asked]
    if expected != [c.links for c in book.chains[chain].counts][: len(expected)]:
        return []
    train = DriveTrain(book)
    fitting = [
        (contact, teeth)
        for contact in train.contacts()
        if Contact.of(contact).chain == chain
        for teeth in TEETH
        if list(shifted_counts(train, contact, teeth).values())[: len(found)] == found
    ]
    if len(fitting) == 1:
        return [tooth_meaning(book, *fitting[0])]
    if fitting:
        names = "; or ".join(one_tooth_off(book, c, t).words for c, t in fitting)
        return [f"These counts are those of {names}. Look at the marks to tell."]
    return [
        "No sprocket set one or two teeth off gives these counts: count again from the other mark, "
        "and the links of the whole chain."
    ]


def marks_meaning(book: EngineBook, step: PlanStep, seen: Sequence[Seen]) -> list[str]:
    """What tells wear from a tooth at each mark that was read after turning and missed."""
    train = compiled(book).train
    lines = list[str]()
    for asked, answer in zip(step.asked, seen, strict=True):
        mark = book.marks.get((asked.code or "").removeprefix(MARK_READ))
        if answer.ok or mark is None or not (asked.code or "").startswith(MARK_READ):
            continue
        tooth = tooth_at(train, shaft_of(book, mark))
        told = (
            f", and one tooth is {tooth:.1f}°. By how much it misses tells wear from a tooth: "
            "measure it."
            if tooth
            else ". No chain moves it: turn on until it meets, then look at the others again."
        )
        lines.append(
            f"{mark.name}: the book allows {allowed_deg(book, mark):.3g}° at the crank{told}"
        )
    return lines


def torque_meaning(book: EngineBook, asked: Asked, stage: Stage, answer: Seen) -> str:
    """What a stage that was missed means for the bolt."""
    name = book.fasteners[asked.fastener].name if asked.fastener else "The bolt"
    is_one_use = bool(asked.fastener and book.fasteners[asked.fastener].one_use)
    if answer.code == NOT_MEASURED.code:
        return f"{name}: how tight it is, nobody knows. Slacken it and go through its stages."
    value = check_stage(stage, answer.typed).value
    share = 100 * (value / stage.value - 1)
    if stage.kind == "torque":
        side = "more" if share > 0 else "less"
        words = (
            f"{name}: about {abs(share):.0f} % {side} clamp than the book means, where its own "
            f"scatter by friction is ± {FRICTION_PCT} %."
        )
    else:
        off = value - stage.value
        words = f"{name}: turned {abs(off):.3g}° {'too far' if off > 0 else 'short'}."
    if share > 0 and is_one_use:
        return f"{words} It is worked in its yield and used up: fit a new one."
    if share > 0:
        return f"{words} Take it out, look at its thread, and measure it against a new one."
    return f"{words} Going on from here is not the same: slacken it and begin its stages again."


def why_it_stays_open(step: PlanStep, seen: Sequence[Seen]) -> str:
    """Why nobody may leave these answers as they are; empty where a lead may."""
    off = [abs(s.teeth) for s in seen if s.teeth]
    if off:
        return (
            f"{counted(max(off), 'tooth', 'teeth')} off is never left as it is: lift the chain, "
            "move it, count again."
        )
    if any(s.code == HARD_STOP for s in seen):
        return "A hard stop is never left as it is: stop, and find what touches."
    if _has_moved(step, seen):
        return "A mark that moved is never left as it is: bring it back before the next stage."
    if any(a.kind is AskedKind.COUNT and not s.ok for a, s in zip(step.asked, seen, strict=True)):
        return "A count that is open is never left as it is: count again, or find what is missing."
    return ""
