"""The words of advice."""

import math

from flaneur.core.book.schema import EngineBook
from flaneur.core.decision.actions import Action, ActionKind
from flaneur.core.decision.choosing import CAPTURE, Ranked
from flaneur.core.decision.foresight import Outcome
from flaneur.core.diagnosis.naming import part_name
from flaneur.core.diagnosis.wording import listed, percent
from flaneur.core.engine.compiled import compiled
from flaneur.core.measuring.sheets import reading_name
from flaneur.core.wording import counted, within

_TESTS = {
    "codes": "Fault codes",
    "debris": "Pan and filter",
    "oil": "Oil pressure, hot, at idle",
}
_NOISES = {"cold_start": "Listening at a cold start", "hot_idle": "Listening at hot idle"}
_OUTCOMES = {
    "slides_on": "it slides on",
    "starts": "it starts and stops",
    "does_not_start": "it does not go on",
    "as_booked": "as many as the book says",
    "other": "another number",
    "firm": "firm",
    "springy": "springy",
    "sinks": "sinks",
    "seized": "seized",
    "sound": "sound",
    "worn": "worn",
    "broken": "broken or gone",
    "silent": "no noise",
    "front_bottom": "at the front's foot",
    "elsewhere": "elsewhere",
    "low": "under the book's least",
    "ok": "as it should be",
    "sensor": "a sensor's code",
    "phaser": "a phaser's code",
    "correlation": "a correlation code",
    "none": "no code",
    "not_parking": "off park",
    "slow": "slow",
    "drifts": "drifts",
    "hunts": "hunts",
}


def test_name(book: EngineBook, kind: str, part: str) -> str:
    """What a test is called."""
    if kind in _TESTS:
        return _TESTS[kind]
    if kind == "noise":
        return _NOISES[part]
    if kind == CAPTURE:
        return f"Capture of the crank and every cam; {within(book.shafts[part].name)} decides"
    if kind == "mark_miss":
        return f"{book.marks[part].name}: by how much it misses"
    if kind == "sweep":
        return f"Sweep of {within(book.phasers[part].name)}"
    return reading_name(book, kind, part)


def outcome_words(book: EngineBook, kind: str, outcomes: tuple[Outcome, ...]) -> str:
    """Outcomes in a few words: codes in a row, bins of a figure as one range."""
    if not outcomes[0].code:
        low, high, unit = outcomes[0].low, outcomes[-1].high, outcomes[0].unit
        gap = "" if unit == "°" else " "
        if math.isinf(low) and math.isinf(high):
            return "whatever it is"
        if math.isinf(low):
            return f"under {high:.1f}{gap}{unit}"
        if math.isinf(high):
            return f"{low:.1f}{gap}{unit} and over"
        return f"{low:.1f} to {high:.1f}{gap}{unit}"
    if kind == "debris":
        return _debris(outcomes)
    words = [_OUTCOMES.get(o.code) or _place(book, o.code) for o in outcomes]
    return ", ".join(words)


def _debris(outcomes: tuple[Outcome, ...]) -> str:
    plastic, metal = ({o.code.split("/")[k] for o in outcomes} for k in (0, 1))
    said = [
        f"{what} {' or '.join(a for a in ('none', 'some', 'much') if a in amounts)}"
        for what, amounts in (("plastic", plastic), ("metal", metal))
        if len(amounts) < 3
    ]
    return ", ".join(said) or "whatever is found"


def _place(book: EngineBook, code: str) -> str:
    bank = code.removeprefix("front_top_").upper()
    return f"at the top of {book.banks[bank].name}" if bank in book.banks else code


def action_name(book: EngineBook, action: Action) -> str:
    """What an action is called."""
    names = [within(part_name(book, p)) for p in _told_parts(book, action)]
    locked = [within(book.phasers[p].name) for p in book.phasers if p in action.locked]
    match action.kind:
        case ActionKind.REMEASURE:
            return f"Leave it, measure again after {action.after_h:g} h"
        case ActionKind.WHEEL:
            return (
                f"Set right {listed([within(part_name(book, w)) for w in sorted(action.wheels)])}"
            )
        case ActionKind.SET_RIGHT:
            chains = [within(book.components[c].name) for c in action.kept]
            right = listed(chains) if len(chains) < 3 else counted(len(chains), "chain")
            return f"Set {right} right at the marks, renew nothing"
        case ActionKind.LOCKOUT:
            more = f", renew {listed(names)}" if names else ""
            return f"Lock out {listed(locked)}{more}{_also(book, action, [])}"
        case ActionKind.TENSIONER:
            return f"Renew {listed(names)} alone{_also(book, action, [])}"
        case ActionKind.WHOLE_SET:
            return "Renew the whole set: every chain, guide, arm and tensioner"
        case (
            ActionKind.PARTS
            | ActionKind.PHASER
            | ActionKind.CHAIN_SET
            | ActionKind.CHAIN_SET_PHASERS
        ):
            return f"Renew {_briefly(book, action, names)}{_also(book, action, locked)}"
        case _:
            return f"{action.kind.words[:1].upper()}{action.kind.words[1:]}"


def _also(book: EngineBook, action: Action, locked: list[str]) -> str:
    """What is done besides."""
    right = [within(book.components[c].name) for c in action.kept]
    right += [within(part_name(book, w)) for w in sorted(action.wheels)]
    said = [f"lock out {listed(locked)}"] if locked else []
    said += [f"set right {listed(right)}"] if right else []
    said += [ActionKind.ELSEWHERE.words] if action.outside else []
    return "".join(f"; {one}" for one in said)


def _told_parts(book: EngineBook, action: Action) -> list[str]:
    """Renewed parts in the order of the drive."""
    order = [*book.chains, *book.guides, *book.arms, *book.tensioners, *book.phasers]
    return [p for p in order if p in action.renewed]


def _briefly(book: EngineBook, action: Action, names: list[str]) -> str:
    if len(names) <= 4:
        return listed(names)
    chains = [within(book.chains[c].name) for c in book.chains if c in action.renewed]
    phasers = [p for p in book.phasers if p in action.renewed]
    rest = len(names) - len(chains) - len(phasers)
    timed = [c for c in book.chains if compiled(book).train.times_cams(c)]
    said = [f"all {counted(len(chains), 'chain')}"] if len(chains) == len(timed) > 1 else chains
    said += (
        [counted(rest, "guide, arm or tensioner", "guides, arms and tensioners")] if rest else []
    )
    said += [counted(len(phasers), "phaser")] if phasers else []
    return listed(said) if said else listed(names)


def option_words(restored: float, risk: float, horizon_h: float) -> str:
    """What an action does, in words."""
    if restored > 0.5:
        stands = f"Every cam comes back into tolerance: {percent(restored)}"
    else:
        stands = f"Every cam in tolerance only in {percent(restored)}"
    return f"{stands}. Fails within {horizon_h:g} h: {percent(risk)}."


def worth_words(book: EngineBook, ranked: Ranked) -> str:
    """What a test is worth."""
    if ranked.gain > ranked.own_cost:
        return f"Knowing it saves {ranked.gain:,.0f} on average."
    if not ranked.beside:
        return "Knowing it would change nothing."
    first, *more = (within(test_name(book, t.kind, t.part)) for t in ranked.beside)
    others = f" and {counted(len(more), 'test')} more" if more else ""
    return f"Alone it changes nothing; with {first}{others} it may change what to do."


def when_to_stop(book: EngineBook, ranked: list[Ranked]) -> str:
    """Whether another test is worth its time."""
    if not ranked:
        return "Every test is done: decide."
    best = ranked[0]
    name = within(test_name(book, best.test.kind, best.test.part))
    if best.beside:
        more = counted(len(best.beside), "test")
        return f"No test alone changes what to do; with {more} more one may: begin with {name}."
    if best.is_worth_it:
        return f"One test more is worth its time: {name}."
    if best.gain > 0:
        return f"Decide now: no test is worth its minutes any more; the nearest is {name}."
    return "Decide now: no test that is left would change what to do."
