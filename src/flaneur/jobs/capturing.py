"""Captures: from the box, struck, and what a person says of a dropped-in file."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError
from flaneur.core.job.change import Change
from flaneur.core.keys import Verb, keys_done
from flaneur.core.measuring.kinds import Phase
from flaneur.core.proof.starting import must_be_startable
from flaneur.core.readings.taken import PhaserState
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.wording import late_words
from flaneur.devices.box import BoxClient
from flaneur.jobs.standing import bench_of, proof_of
from flaneur.jobs.work import Work
from flaneur.store.incoming import State, incoming_by_id, remember
from flaneur.store.plans import plan_of
from flaneur.store.readings import capture_by_id, keep_capture, strike_capture
from flaneur.store.tables import Incoming, JournalEntry
from flaneur.store.units import MAIN, mount_of

BOX_RATE_HZ = 50_000.0


def unit_at_box(work: Work) -> str:
    """What the box calls the engine of a job: by its unit, and by its place there beside the main
    one.
    """
    found = mount_of(work.session, work.job.engine_id)
    place = "" if found is None or found.position == MAIN else f"-engine-{work.job.engine_id}"
    return f"unit-{work.job.unit_id}{place}"


def engine_to_start(work: Work) -> str:
    """What the box calls the engine that is about to run. Raises BookError for one whose signals
    show no cam, and ReleaseError for one that must not be started yet.
    """
    work.book.check_capturable()
    if work.job.bench_started:
        must_be_startable(proof_of(work).in_the_way)
    return unit_at_box(work)


def commanded_deg(phasers: dict[str, PhaserState]) -> dict[str, float]:
    """Angles that phasers are commanded to, crank degrees away from park."""
    return {k: p.command_deg for k, p in phasers.items() if p.state == "commanded"}


def keep(
    work: Work, capture: Capture, phase: str, phasers: dict[str, PhaserState]
) -> tuple[JournalEntry, int]:
    """Decode a capture and keep it with its readings. Raises CaptureError."""
    found = correlate(capture, work.book)
    row = keep_capture(work.session, work.job, work.book, phase, capture, found, work.by, phasers)
    words = capture_words(work.book, capture, found, phase)
    return work.record(Change.CAPTURE, words, {"capture": row.id}), row.id or 0


def capture_words(book: EngineBook, capture: Capture, found: Correlation, phase: str) -> str:
    """What the notebook says of a new capture."""
    worst = max(found.cams, key=lambda c: abs(c.deviation_deg))
    after = " after the repair" if phase == Phase.AFTER else ""
    return (
        f"Captured {capture.seconds:.1f} s from {capture.source}{after}: "
        f"{book.shafts[worst.cam].name} {late_words(worst.deviation_deg)}, the furthest off."
    )


def tell_the_stand_in(work: Work, box: BoxClient) -> None:
    """Let a simulated engine become what was done to it on the bench; a real box has no part in
    this.
    """
    if not box.ask({"do": "hello"}).get("stand_in"):
        return
    plan, bench = plan_of(work.job), bench_of(work.session, work.job)
    if plan is None:
        return
    fitted = keys_done(set(bench.done), Verb.FIT)
    message = {
        "do": "repair",
        "engine": work.book.name,
        "unit": unit_at_box(work),
        "renewed": [c for c in plan.renewed if c in fitted],
        "came_off": [c for c in plan.access if c in fitted],
        "tooth_errors": bench.tooth_errors,
    }
    box.ask(message)


def take_capture_back(work: Work, capture_id: int, reason: str) -> JournalEntry:
    """Take a capture back as a whole, with a reason: it and its readings stay readable and no
    longer count. Raises CaptureError when it was taken back already.
    """
    row = capture_by_id(work.session, work.job_id, capture_id)
    if row.struck is not None:
        raise CaptureError(
            "This capture was taken back already.",
            read=row.struck,
            expected="a capture that counts",
        )
    readings = strike_capture(work.session, row, reason)
    words = f"Capture C{row.id} of {row.source} taken back: {reason}"
    data = {"capture": row.id, "readings": readings}
    return work.record(Change.CAPTURE_STRUCK, words, data)


def say_channels(
    work: Work, incoming_id: int, mapping: dict[str, str], is_remembered: bool
) -> Incoming:
    """Say which column of a file is which sensor, so that it can wait to be decoded again. Raises
    CaptureError when the file asks nothing, or the columns do not serve.
    """
    row = incoming_by_id(work.session, work.job_id, incoming_id, lock=True)
    if row.state not in (State.ASKING, State.REFUSED):
        raise CaptureError("This file asks nothing.", read=row.state)
    wanted = [w.channel for w in work.book.tone_wheels.values()]
    if sorted(mapping.values()) != sorted(wanted):
        raise CaptureError(
            "Every sensor needs one column.",
            read=", ".join(mapping.values()) or "none",
            expected=", ".join(wanted),
        )
    if row.columns and not set(mapping) <= set(row.columns):
        raise CaptureError(
            "The file has no such column.",
            read=", ".join(mapping),
            expected=", ".join(row.columns),
        )
    row.mapping, row.state, row.refusal = mapping, State.WAITING, {}
    row.progress, row.attempts = 0.0, 0
    work.session.add(row)
    if is_remembered:
        remember(work.session, row.columns, work.book.name, mapping, work.by)
    return row
