"""The words of a verdict."""

from collections.abc import Sequence

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.found import LIKELY, OutOfTolerance, Suspect
from flaneur.core.keys import SuspectKind
from flaneur.core.readings.taken import Readings
from flaneur.core.wording import late_words, within

CERTAIN, VERY_SURE, SURE = 0.99, 0.95, 0.75
MOVES = (SuspectKind.JUMP, SuspectKind.PHASER, SuspectKind.TONE, SuspectKind.GONE)  # a cam
MAIN_SHARE = 0.15  # of a figure: what makes at least so much of it is named


def percent(share: float) -> str:
    """A probability in words that never claim certainty."""
    if share > CERTAIN:
        return "over 99\u00a0%"
    return "under 1\u00a0%" if share < 0.01 else f"{share:.0%}".replace("%", "\u00a0%")


def sure(suspect: Suspect) -> str:
    """How sure, in words and figures; flat words only for what may be stated."""
    probability = suspect.probability
    if suspect.is_stated:
        return f"as good as certain ({percent(probability)})"
    likely = "likely" if probability > SURE else "not sure"
    how = "very likely" if probability > VERY_SURE else likely
    return f"{how} ({percent(probability)})"


def judged_against(book: EngineBook, readings: Readings) -> str:
    """What the readings were judged against: the book, or the engine's own baseline."""
    known = [cam for cam in book.cams if cam in readings.baseline_deg]
    if not known:
        return "the engine book"
    if len(known) == len(book.cams):
        return "the engine's own baseline"
    return f"the engine's own baseline for {len(known)} cams, the engine book for the rest"


def others(suspects: list[Suspect]) -> str:
    """What is said of the suspects that get no line of their own."""
    hidden = [s for s in suspects if not s.is_shown]
    if not hidden:
        return ""
    most = max(s.probability for s in hidden)
    return f"{len(hidden)} more, each {percent(max(most, 0.01))} or less."


def apart(confounded: list[str], readings: Readings) -> str:
    """What else explains the readings about as well, or nothing."""
    if not confounded or not (readings.cams or readings.plungers or readings.direct):
        return ""
    return f"These readings cannot tell it from: {'; '.join(confounded)}."


def listed(names: Sequence[str]) -> str:
    """Names as a sentence lists them."""
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def built_up(figure: OutOfTolerance) -> str:
    """A figure as the sum of its causes, with their intervals."""
    parts = [
        f"{cause.name} {cause.share:+.1f}° ({cause.low:.1f} to {cause.high:.1f})"
        for cause in figure.causes
    ]
    return f"{late_words(figure.value)} = {', '.join(parts)}"


def main_causes(figure: OutOfTolerance) -> list[str]:
    """What makes most of a figure."""
    least = MAIN_SHARE * abs(figure.value)
    named = [c for c in figure.causes if c.share * figure.value > 0 and abs(c.share) >= least]
    return [within(c.name) for c in (named or figure.causes[:1])]


def headline(figures: list[OutOfTolerance], suspects: list[Suspect], readings: int) -> str:
    """What a lead would say aloud: what is out of tolerance, what makes it so, what is over its
    limit.
    """
    if not readings:
        return "No readings yet: only what is usual at this age is known."
    leader = suspects[0] if suspects else None
    if leader is None:
        return "What was read says nothing of this drive."
    named = _named(leader)
    if leader.kind is SuspectKind.NONE:
        why = "no fault known here gives what was read"
        return f"{leader.name}: {why}, {sure(leader)}."
    over = [s for s in suspects if s.kind is SuspectKind.WEAR and s.probability > LIKELY]
    if figures:
        moved = [s for s in suspects if s.kind in MOVES and s.probability > LIKELY]
        return _of_figures(figures, moved, over)
    if leader.kind is SuspectKind.SOUND:
        return f"{leader.name}: every figure in tolerance, every part under its limit, " + (
            f"{sure(leader)}."
        )
    if leader.kind is SuspectKind.WEAR and leader.probability > LIKELY:
        return f"{named}: over its limit, {sure(leader)}."
    return f"{named}: {sure(leader)}."


def _named(suspect: Suspect) -> str:
    return f"{suspect.name}, {suspect.detail}" if suspect.detail else suspect.name


def _of_figures(figures: list[OutOfTolerance], moved: list[Suspect], over: list[Suspect]) -> str:
    most = max(figures, key=lambda f: abs(f.value))
    more = f", and {len(figures) - 1} more out of tolerance" if len(figures) > 1 else ""
    stands = f"{most.name} {late_words(most.value)}, ±{most.limit:g}° allowed{more}"
    if moved:
        late = f"{most.name} {late_words(most.value)}"
        return f"{_named(moved[0])}: {sure(moved[0])}. {late}."
    causes = main_causes(most)
    if over:
        worst = listed([f"{within(s.name)}, {sure(s)}" for s in over[:2]])
        whose = "its" if len(over) == 1 else "their"
        return f"{worst[:1].upper()}{worst[1:]}, over {whose} limit. {stands}."
    together = "together make it so" if len(causes) > 1 else "makes it so"
    each = (
        "each probably still under its limit"
        if len(causes) > 1
        else "probably still under its limit"
    )
    return f"{stands}: {listed(causes)} {together}, {each}."


def advice(book: EngineBook, readings: Readings) -> list[str]:
    """What is not known yet and would say more."""
    said: list[str] = []
    read = {r.cam for r in readings.cams}
    if missing := [book.shafts[c].name for c in book.cams if c not in read]:
        way = (
            "A capture reads them all at once."
            if book.crank_wheel_key and book.cam_wheels
            else "Read them by their marks."
        )
        said.append(f"Not read yet: {', '.join(missing)}. {way}")
    if unknown := [
        book.shafts[r.cam].name
        for r in readings.cams
        if book.phaser_of(r.cam) and r.phaser.state == "unknown"
    ]:
        said.append(
            f"Phaser state unknown for {', '.join(unknown)}: that reading counts for little. Read "
            "it parked."
        )
    measured = {r.chain for r in readings.plungers}
    if missing := [c.name for k, c in book.chains.items() if k not in measured and book.arm_of(k)]:
        said.append(
            f"Plunger extension not measured: {', '.join(missing)}. It tells elongation from guide "
            "wear."
        )
    if readings.hours is None:
        said.append("Running hours unknown: wear priors are wide.")
    return said


def none_words(weight: float) -> str:
    """What is said of the chance that the fault is none of those thought of."""
    if weight < 0.02:
        return "The readings fit what is known here."
    if weight < 0.5:
        return "The readings fit only just: read again what decides most."
    return "No fault known here gives these readings: read again, or look where nobody looked."


def left_out_words(bound: float, more: float) -> str:
    """What was not gone through."""
    share = "under 0.1 %" if bound < 0.001 else f"at most {100 * bound:.1f} %"
    return (
        f"Sets of faults not gone through: {share}. Three at once, where no two of them fit: "
        f"{100 * more:.1f} % before any reading."
    )
