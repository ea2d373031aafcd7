"""What must be shown before an engine is released."""

from collections.abc import Collection, Mapping, Sequence

from flaneur.core.bench.inside import Laid, list_words
from flaneur.core.bench.tally import Tally
from flaneur.core.book.schema import EngineBook
from flaneur.core.measuring.marks import Miss, MissKind, timing_marks
from flaneur.core.plan.plan import Plan
from flaneur.core.proof.cams import cam_check
from flaneur.core.proof.check import About, Check
from flaneur.core.proof.hands import HandTurns
from flaneur.core.proof.retest import open_retest
from flaneur.core.proof.ways import step_of_departure, step_of_marks, step_of_pins
from flaneur.core.readings.taken import CamReading
from flaneur.core.wording import counted

LEAVABLE = (MissKind.ORDINARY, MissKind.WEAR)


def checks_of(
    book: EngineBook,
    plan: Plan | None,
    tally: Tally,
    hands: HandTurns,
    after: list[CamReading],
    misses: Sequence[Miss] = (),
    missed: Mapping[str, str] | None = None,
) -> list[Check]:
    """All conditions of release of a job; without a plan the first of them is unknown. ``misses``:
    marks whose miss was measured since the repair; ``missed``: names of those that missed, None
    where it may be any of the book.
    """
    retest = open_retest(plan, tally)
    open_steps = len(plan.steps) - len(tally.done) - bool(retest) if plan else 0
    checks = release_checks(
        book, after, hands, tally.pins_in, open_steps, len(tally.departures), misses, missed
    )
    checks += _laid(tally.laid)
    if retest is not None and not open_steps:
        checks.append(
            Check(
                about=About.RETEST,
                name="Cold start again",
                state="unknown",
                words=f"Due after {hours_words(retest.waiting)} of standing. A lead may let the "
                "unit leave before; it is then looked after as due.",
                overridable=True,
            )
        )
    if plan is not None:
        return [with_way(book, plan, tally, check) for check in checks]
    unplanned = Check(
        about=About.PLAN,
        name="Plan",
        state="unknown",
        words="Nothing was planned.",
        overridable=False,
    )
    return [unplanned, *checks]


def with_way(book: EngineBook, plan: Plan, tally: Tally, check: Check) -> Check:
    """The condition with the step to go back to where it is not met, and a step stands out."""
    if check.state == "met":
        return check
    step = None
    if check.about in (About.MARKS, About.CAM) and check.state == "failed":
        step = step_of_marks(plan, tally, book, check.cam)
    elif check.about is About.PINS and check.state == "failed":
        step = step_of_pins(plan, tally)
    elif check.about is About.DEPARTURES:
        step = step_of_departure(plan, tally)
    if step is None:
        return check
    way = f"Back to step {plan.steps.index(step) + 1}: {step.title}"
    return check.model_copy(update={"step": step.ref, "way": way})


def release_checks(
    book: EngineBook,
    after: list[CamReading],
    hands: HandTurns,
    pins_in: int,
    open_steps: int,
    departures: int,
    misses: Sequence[Miss] = (),
    missed: Mapping[str, str] | None = None,
) -> list[Check]:
    """All conditions of release in the order of the work. Degrees are crank degrees."""
    checks = [
        Check(
            about=About.STEPS,
            name="Bench steps",
            state="met" if open_steps == 0 else "failed",
            overridable=False,
            words="Every step is closed."
            if open_steps == 0
            else f"{counted(open_steps, 'step')} open on the bench.",
        ),
        _turns(book, hands),
        *_stops(book, hands),
        _marks(book, hands, misses, missed),
        _pins(hands, pins_in),
    ]
    if departures:
        checks.append(
            Check(
                about=About.DEPARTURES,
                name="Departures",
                state="failed",
                overridable=True,
                words=f"{counted(departures, 'step')} closed although not right.",
            )
        )
    by_cam: Mapping[str, CamReading] = {r.cam: r for r in after}
    checks += [cam_check(book, cam, by_cam.get(cam)) for cam in book.cams]
    return checks


def _turns(book: EngineBook, hands: HandTurns) -> Check:
    name = f"{book.proof.hand_turns} crank turns by hand"
    if hands.is_stopped or hands.hard_stop:
        return Check(
            about=About.TURNS,
            name=name,
            state="failed",
            words="A hard stop was felt: a valve. Do not turn on.",
            overridable=False,
        )
    if hands.turns is None or hands.hard_stop is None:
        return Check(
            about=About.TURNS,
            name=name,
            state="unknown",
            words="Not turned by hand yet.",
            overridable=False,
        )
    met = hands.turns >= book.proof.hand_turns
    return Check(
        about=About.TURNS,
        name=name,
        state="met" if met else "failed",
        words=f"{counted(hands.turns, 'turn')}, no hard stop.",
        overridable=False,
    )


def _stops(book: EngineBook, hands: HandTurns) -> list[Check]:
    """A hard stop once felt: its cause written, the step behind it opened again, and a clean turn
    since.
    """
    if not hands.stops:
        return []
    last = hands.stops[-1]
    if last.cause is None:
        words = f"{last.felt} Its cause is not written, and no step was opened again."
        return [
            Check(
                about=About.STOP, name="Hard stop", state="failed", words=words, overridable=False
            )
        ]
    is_clean = (
        hands.turns is not None and not hands.hard_stop and hands.turns >= book.proof.hand_turns
    )
    since = "Turned without a stop since." if is_clean else "Not turned clean since."
    words = f"{last.cause.rstrip('.')}. Written by {last.cause_by}. {since}"
    return [
        Check(
            about=About.STOP,
            name="Hard stop",
            state="met" if is_clean else "failed",
            words=words,
            overridable=False,
        )
    ]


def _marks(
    book: EngineBook, hands: HandTurns, misses: Sequence[Miss], missed: Mapping[str, str] | None
) -> Check:
    """Marks after turning. None that missed is overridden, unless every one that did, or can have
    done so, was measured, and wear that was left in is what makes one of them miss.
    """
    timing = set(timing_marks(book))
    can_be = timing if missed is None else set(missed)
    found = {m.mark: m.kind for m in misses if m.mark in can_be}
    may_be_left = (
        set(found) == can_be
        and MissKind.WEAR in found.values()
        and all(kind in LEAVABLE for kind in found.values())
    )
    unseen = [m for m in book.proof.mark_checks if m not in hands.marks]
    wrong = [m for m in book.proof.mark_checks if hands.marks.get(m) is False]
    if wrong:
        return Check(
            about=About.MARKS,
            name="Marks after turning",
            state="failed",
            words=" ".join(
                [*(m.words for m in misses), _not_measured(missed, timing, wrong, misses)]
            ).strip(),
            overridable=may_be_left,
        )
    if unseen:
        return Check(
            about=About.MARKS,
            name="Marks after turning",
            state="unknown",
            words=f"Not looked at: {'; '.join(unseen)}.",
            overridable=False,
        )
    return Check(
        about=About.MARKS,
        name="Marks after turning",
        state="met",
        words="All met.",
        overridable=False,
    )


def _not_measured(
    missed: Mapping[str, str] | None,
    timing: Collection[str],
    wrong: Sequence[str],
    misses: Sequence[Miss],
) -> str:
    """What missed and nobody measured, in words; empty where all of it was."""
    if missed is not None and not missed and not misses:
        return "Something else was not so when it was turned at the bench: open its step again."
    measured = {m.mark for m in misses}
    left = {mark: name for mark, name in (missed or {}).items() if mark not in measured}
    if misses and not left:
        return ""
    if left and not any(mark in timing for mark in left):
        return f"Not met: {'; '.join(left.values())}. No chain moves it: open its step again."
    names = "; ".join(left.values() or wrong)
    return f"Not met: {names}. Measure by how much: a tooth is never left."


def _pins(hands: HandTurns, pins_in: int) -> Check:
    if hands.pins_out is None:
        words = f"{counted(pins_in, 'piece')} put in or laid aside; not counted out yet."
        return Check(
            about=About.PINS,
            name="Everything counted out",
            state="unknown",
            words=words,
            overridable=False,
        )
    met = hands.pins_out == pins_in
    words = (
        f"{pins_in} in, {hands.pins_out} out."
        if met
        else f"{pins_in} in, {hands.pins_out} out: find the rest before turning."
    )
    return Check(
        about=About.PINS,
        name="Everything counted out",
        state="met" if met else "failed",
        words=words,
        overridable=False,
    )


def _laid(laid: Sequence[Laid]) -> list[Check]:
    """What was laid in by hand and not counted out: it goes out with nobody's leave."""
    if not laid:
        return []
    return [
        Check(
            about=About.PINS,
            name="Laid in by hand",
            state="failed",
            words=f"Still in the engine: {list_words(laid)}.",
            overridable=False,
        )
    ]


def hours_words(minutes: float) -> str:
    """A waiting of hours in words."""
    return counted(round(minutes / 60, 1), "hour")


def may_release(
    checks: list[Check], override_reason: str | None, is_lead: bool
) -> tuple[bool, list[str]]:
    """Whether the engine may be released, and what stands in the way."""
    blocking = [c for c in checks if c.state != "met"]
    hard = [f"{c.name}: {c.words}" for c in blocking if not c.overridable]
    soft = [f"{c.name}: {c.words}" for c in blocking if c.overridable]
    if hard:
        return False, hard + soft
    if soft and not (is_lead and override_reason and len(override_reason.strip()) >= 10):
        return False, [
            *soft,
            "A lead may override this with a written reason of at least ten letters.",
        ]
    return True, []
