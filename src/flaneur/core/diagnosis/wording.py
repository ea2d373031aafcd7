"""The words of a verdict."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.found import Suspect
from flaneur.core.keys import Contact, SuspectKey, SuspectKind
from flaneur.core.readings.taken import Readings


def suspect_name(book: EngineBook, key: str) -> str:
    """The wording of a suspect, in the trade's terms."""
    kind, part = SuspectKey.of(key)
    if kind is SuspectKind.WEAR:
        if part in book.chains:
            return f"{book.chains[part].name} elongated"
        return f"{(book.guides.get(part) or book.arms[part]).name} worn"
    if kind is SuspectKind.JUMP:
        chain, sprocket = Contact.of(part)
        return f"{book.chains[chain].name} jumped at the {book.sprockets[sprocket].name}"
    if kind is SuspectKind.PHASER:
        return f"{book.phasers[part].name} off park"
    if kind is SuspectKind.TONE:
        return f"{book.tone_wheels[part].name} slipped"
    if kind is SuspectKind.SOUND:
        return "Nothing wrong that these readings show"
    return "None of these: the readings contradict"


def percent(share: float) -> str:
    """A probability in words that never claim certainty."""
    if share > 0.99:
        return "over 99\u00a0%"
    return "under 1\u00a0%" if share < 0.01 else f"{share:.0%}".replace("%", "\u00a0%")


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


def headline(leader: Suspect, readings: Readings) -> str:
    """The leading suspect and how sure it is."""
    if not (readings.cams or readings.plungers or readings.direct):
        return "No readings yet: only what is usual at this age is known."
    sure = (
        "very likely"
        if leader.probability > 0.95
        else "likely"
        if leader.probability > 0.75
        else "leading, not sure"
    )
    return (
        f"{leader.name}{f', {leader.detail}' if leader.detail else ''}: {sure} "
        f"({percent(leader.probability)})."
    )


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
