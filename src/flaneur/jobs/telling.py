"""What a report tells an owner, and what it tells of a job beside its figures."""

from base64 import b64encode
from collections.abc import Sequence
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from flaneur.core.bench.tally import Tally
from flaneur.core.job.change import Change
from flaneur.core.job.following import TITLES, FollowKind
from flaneur.core.measuring.kinds import MEASURED_OFF, Phase
from flaneur.core.measuring.sheets import reading_name
from flaneur.core.proof.check import About
from flaneur.core.proof.shown import comes_back, turned_at_bench
from flaneur.core.wording import counted, joined, within
from flaneur.formats.photos import small_of
from flaneur.formats.report import FoundLine, PhotoShown
from flaneur.jobs.agreeing import agreed_of
from flaneur.jobs.standing import Proof
from flaneur.jobs.work import Work
from flaneur.store.changes import standing_entries
from flaneur.store.readings import sweeps_of
from flaneur.store.tables import FollowUp, Photo, ReadingRow

MOST_PHOTOS, PHOTOS_SHOWN = 100, 24


@dataclass(frozen=True)
class Told:
    """What is known of a job, as its owner is told."""

    headline: str
    renewed: list[str]
    proof: Proof
    ended: str
    left_over: str
    is_settled: bool
    due: list[FollowUp]
    zone: ZoneInfo


def done_words(work: Work, told: Told) -> list[str]:
    """What was done, and what it was agreed to cost."""
    if told.ended:
        return [told.ended]
    parts = joined(within(name) for name in told.renewed)
    lines = [f"Renewed: {parts}." if parts else "Nothing was renewed."]
    agreed = agreed_of(work)
    if agreed is not None:
        lines.append(
            f"Agreed by {agreed.owner} on {agreed.on:%Y-%m-%d}: estimate {agreed.price:,.0f}, at "
            f"most {agreed.most:,.0f}."
        )
    return lines


def shown_words(work: Work, told: Told) -> list[str]:
    """How it was shown to be right, without a figure that only a workshop reads."""
    proof, checks = told.proof, told.proof.checks
    cams = [c for c in checks if c.about is About.CAM]
    met, read = (sum(c.state in states for c in cams) for states in (("met",), ("met", "failed")))
    lines = list[str]()
    if proof.hands.turns is not None and not proof.hands.hard_stop:
        turns = counted(proof.hands.turns, "turn")
        lines.append(f"Turned by hand {turns} before it was started: nothing touched.")
    if read:
        lines.append(
            f"Measured again while running: {met} of {counted(len(cams), 'camshaft')} in time."
        )
    elif cams:
        lines.append("Not measured again yet.")
    unmet = [within(c.name) for c in checks if c.state != "met" and c.about is not About.CAM]
    if unmet:
        lines.append(f"Not shown: {joined(unmet)}.")
    if work.job.override_reason:
        lines.append(f"Released by {work.job.released_by} all the same: {work.job.override_reason}")
    return lines or ["Not shown yet."]


def next_words(told: Told) -> list[str]:
    """What an owner has to come back for."""
    lines = [
        f"{TITLES[FollowKind(due.kind)]}: {due.due_at.astimezone(told.zone):%Y-%m-%d %H:%M}."
        for due in told.due
    ]
    if told.left_over:
        lines.append(told.left_over)
    if not told.is_settled:
        lines.append("The work goes on: nothing is settled yet.")
    return lines or ["Nothing was left over."]


def decision_words(work: Work) -> str:
    """What a lead decided, and why where it is not what the readings advised."""
    found = standing_entries(work.session, [work.job_id], Change.DECIDED)
    entry = found.get((work.job_id, Change.DECIDED))
    return f"{entry.words} ({entry.by})" if entry else ""


def turned_words(work: Work, proof: Proof) -> list[str]:
    """Turning by hand step by step, hard stops, and when links agree again."""
    lines = [
        f"{t.title}: {counted(t.turns, 'turn')}, {t.words} ({t.by})."
        for t in turned_at_bench(work.book, proof.plan, proof.bench)
    ]
    lines += [f"Hard stop: {stop.felt} {stop.cause or ''}".rstrip() for stop in proof.hands.stops]
    lines += [miss.words for miss in proof.misses]
    if proof.plan is not None:
        lines += [f"{c.name}: {c.words}" for c in comes_back(work.book, proof.plan)]
    return lines


def found_in_parts(work: Work, rows: Sequence[ReadingRow]) -> list[FoundLine]:
    """What the parts that came off measured."""
    return [
        FoundLine(
            name=reading_name(work.book, row.kind, row.part),
            value=f"{row.value:.2f} {row.unit}" if row.value is not None else row.words,
        )
        for row in rows
        if row.kind in MEASURED_OFF and row.struck is None
    ]


def phaser_words(work: Work) -> list[str]:
    """What sweeps of the phasers came to."""
    return [
        f"{fit.get('name', '')} {fit.get('state_words', '')} ({phase})."
        for phase in Phase
        for _, summary in sweeps_of(work.session, work.job_id, phase)
        for fit in summary.get("fits", [])
    ]


def time_words(bench: Tally, zone: ZoneInfo) -> list[str]:
    """How long the bench took by its records, and by whom; breaks are in it."""
    at = sorted(record.at for record in bench.done.values())
    if not at:
        return []
    hands = joined(sorted({record.by for record in bench.done.values()}))
    span = (at[-1] - at[0]).total_seconds() / 3600
    return [
        f"At the bench from {at[0].astimezone(zone):%Y-%m-%d %H:%M} to "
        f"{at[-1].astimezone(zone):%Y-%m-%d %H:%M} ({span:.1f} h, breaks among them): {hands}."
    ]


def which_photos(every: Sequence[int], chosen: Sequence[int] | None) -> list[int]:
    """Which photographs a report shows: those chosen, in the order they were taken; without a
    choice the first ones. What was chosen and is not there is left.
    """
    if chosen is None:
        return list(every[:PHOTOS_SHOWN])
    return [key for key in every if key in set(chosen)][:MOST_PHOTOS]


def shown_photo(row: Photo) -> PhotoShown:
    """A photograph as paper takes it; one that was kept before small ones were is made smaller
    now.
    """
    small = row.small or small_of(row.content)
    caption = " · ".join(part for part in (row.caption, row.taken_by) if part)
    return PhotoShown(caption=caption, content=b64encode(small).decode())
