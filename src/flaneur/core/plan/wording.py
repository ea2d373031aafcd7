"""Where the engine stands in a step, in the words of the bench."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.position import WHOLE_TURN, CamState, StepState
from flaneur.core.wording import within


def state_words(book: EngineBook, state: StepState) -> list[str]:
    """What to know before a hand is put to it: how far the crank may turn, which cams are loose,
    what is in the engine. Nothing where all is driven and nothing is in.
    """
    found = [_crank(state), *_cams(book, state)] if _is_open(state) else []
    if state.inside:
        found.append(f"In the engine: {', '.join(inside_words(book, state))}.")
    return found


def inside_words(book: EngineBook, state: StepState) -> list[str]:
    """What a plan's steps have put into the engine so far."""
    return [f"{n} × {_called(book, what)}" for what, n in state.inside.items()]


def _is_open(state: StepState) -> bool:
    return any(s is not CamState.DRIVEN for s in state.cams.values())


def _crank(state: StepState) -> str:
    if state.crank_deg is None:
        return "Nobody knows yet where the crank stands: do not turn it."
    if state.crank_arc is None:
        return "Clearance unknown: do not turn the crank."
    back, on = state.crank_arc
    if back <= -WHOLE_TURN and on >= WHOLE_TURN:
        return "The crank may turn: no valve can meet a piston here."
    if not back and not on:
        why = f"next is the {state.ends}" if state.ends else "a held cam hangs on it"
        return f"The crank may not turn: {why}."
    ends = f": next is the {state.ends}" if state.ends else ""
    return f"The crank may turn {-back:.0f}° back and {on:.0f}° on, no further{ends}."


def _cams(book: EngineBook, state: StepState) -> list[str]:
    found: list[str] = []
    tools: dict[str, list[str]] = {}
    for cam, tool in state.held_by.items():
        tools.setdefault(tool, []).append(book.shafts[cam].short_name)
    for tool, cams in tools.items():
        found.append(f"Held by the {_called(book, tool)}: {', '.join(cams)}.")
    for cam, (back, on) in state.jumps.items():
        found.append(f"Loose, may swing {back:+.0f}° to {on:+.0f}°: {book.shafts[cam].short_name}.")
    quiet = [c for c, s in state.cams.items() if s is CamState.FREE]
    if quiet:
        names = ", ".join(book.shafts[c].short_name for c in quiet)
        found.append(f"Loose, at rest: {names}.")
    unknown = [c for c, s in state.cams.items() if s is CamState.UNKNOWN]
    if unknown:
        names = ", ".join(book.shafts[c].short_name for c in unknown)
        found.append(f"Loose, unknown where it goes: {names}. Hold it.")
    return found


def _called(book: EngineBook, what: str) -> str:
    if what in book.tools:
        return within(book.tools[what].name)
    if what in book.components:
        return f"pin of {within(book.components[what].name)}"
    return {"crank": "lock of the crank"}.get(what, what.replace("_", " "))
