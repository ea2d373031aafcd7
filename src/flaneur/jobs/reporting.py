"""What a report says of a job, gathered from its records."""

from collections.abc import Sequence
from datetime import datetime
from zoneinfo import ZoneInfo

from flaneur.core.bench.answers import STAGES
from flaneur.core.bench.tally import Tally
from flaneur.core.job.ending import Ending, ending_words
from flaneur.core.keys import StepRef, Verb
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.measuring.sheets import reading_name
from flaneur.core.measuring.told import AccessoryNoise, OilState, Rattle, Starts
from flaneur.core.picture.theme import PAPER
from flaneur.core.picture.trace_svg import traces_svg
from flaneur.core.plan.steps import AskedKind
from flaneur.core.readings.counting import counting
from flaneur.core.readings.renewed import replaced_words
from flaneur.core.wording import counted, late_words
from flaneur.formats.report import ReadingLine, ReportContent, TorqueLine, TraceFigure
from flaneur.jobs.first_start import heard_words
from flaneur.jobs.fitted import bench_plan
from flaneur.jobs.judging import ladder_of, verdict_of
from flaneur.jobs.standing import bench_of, proof_of
from flaneur.jobs.telling import (
    Told,
    decision_words,
    done_words,
    found_in_parts,
    next_words,
    phaser_words,
    shown_photo,
    shown_words,
    time_words,
    turned_words,
    which_photos,
)
from flaneur.jobs.traces import traces_closed
from flaneur.jobs.work import Work
from flaneur.store.after import follow_ups_of
from flaneur.store.plans import plan_of
from flaneur.store.readings import photos_by_id, photos_listed, readings_of
from flaneur.store.shop import shop_of
from flaneur.store.tables import ReadingRow
from flaneur.store.units import engine_by_id, unit_by_id


def report_content(
    work: Work, head: str | None = None, chosen: Sequence[int] | None = None
) -> ReportContent:
    """Gather a report. Every figure carries the id of the reading it came from. ``head`` is the
    journal's at the signature; ``chosen`` are the photographs it shows, None for the first ones.
    """
    job, book = work.job, work.book
    unit = unit_by_id(work.session, job.unit_id)
    verdict = verdict_of(work, with_evidence=False)
    plan, bench = plan_of(job), bench_of(work.session, job)
    shown_plan = bench_plan(work)
    titles = {s.ref: s.title for s in shown_plan.steps} if shown_plan else {}
    rows = readings_of(work.session, work.job_id)
    asked = {
        "when": "when",
        "where": "where",
        "standing_hours": "stood",
        "oil_note": "oil",
        "hours_typed": "hours",
        "replaced_before": "replaced before",
    }
    intake = [f"{word}: {job.intake[key]}" for key, word in asked.items() if job.intake.get(key)]
    oil = OilState.coded(job.intake.get("oil_state")) or OilState.UNKNOWN
    noise = AccessoryNoise.coded(job.intake.get("accessories")) or AccessoryNoise.UNKNOWN
    intake.append(f"oil state {oil.words}, accessory noises {noise.words}")
    rattle = Rattle.coded(job.intake.get("rattle")) or Rattle.UNKNOWN
    starts = Starts.coded(job.intake.get("starts")) or Starts.UNKNOWN
    codes = str(job.intake.get("codes") or "") or "not read"
    intake.append(f"rattle: {rattle.words}; start: {starts.words}; codes: {codes}")
    if put_in := replaced_words(book, job.intake):
        intake.append(f"put in before: {put_in}")
    zone = ZoneInfo(shop_of(work.session).time_zone)
    proof, ended = proof_of(work), _ended(work)
    told = Told(
        headline=verdict.headline,
        renewed=[book.components[c].name for c in plan.renewed] if plan else [],
        proof=proof,
        ended=ended,
        left_over=job.left_over,
        is_settled=bool(ended or job.released_by),
        due=[f for f in follow_ups_of(work.session, work.job_id) if f.outcome is None],
        zone=zone,
    )
    listed = photos_listed(work.session, work.job_id)
    photos = photos_by_id(work.session, work.job_id, which_photos([p.id for p in listed], chosen))
    return ReportContent(
        wrong=[str(job.intake.get("complaint") or "No complaint was written."), verdict.headline],
        done=done_words(work, told),
        shown=[] if ended else shown_words(work, told),
        next=next_words(told),
        ended=ended,
        decision=decision_words(work),
        turned=[*turned_words(work, proof), *heard_words(work, Phase.AFTER)],
        found=found_in_parts(work, rows),
        phasers=phaser_words(work),
        times=[] if ended else time_words(bench, zone),
        photos=[shown_photo(p) for p in photos],
        more_photos=len(listed) - len(photos),
        number=job.number,
        unit=unit.name,
        tag=unit.tag,
        engine_number=engine_by_id(work.session, job.engine_id).number,
        engine=f"{book.name}, {book.kind}",
        opened=_time(zone, job.opened_at),
        opened_by=job.opened_by,
        complaint=str(job.intake.get("complaint", "")),
        intake=intake,
        headline=verdict.headline,
        apart=verdict.apart,
        judged_against=verdict.judged_against,
        used=[str(r.id) for r in counting(rows, Phase.BEFORE)],
        wear=verdict.wear,
        ladder=ladder_of(work),
        renewed=[book.components[c].name for c in plan.renewed] if plan else [],
        torques=_torques(work, bench),
        traces=_traces(work, bench),
        counts=_counts(work, bench),
        departures=[
            f"{titles.get(r.step, r.step)}: {'; '.join(s.words for s in r.seen if not s.ok)} "
            f"Reason: {r.departure}"
            for r in bench.departures
        ],
        checks=[] if ended else proof.checks,
        override=job.override_reason,
        released_by=job.released_by,
        left_over=job.left_over,
        readings=[_reading(work, r, zone) for r in rows],
        notice=book.notice,
        signed_by=job.signed_by,
        signed_at=_time(zone, job.signed_at) if job.signed_at else None,
        head=head,
        origin=job.import_note if job.imported_by else "",
    )


def _ended(work: Work) -> str:
    """How the job ended without a repair; empty where it did not."""
    job = work.job
    return ending_words(Ending(job.ended), job.ended_why or "") if job.ended else ""


def _time(zone: ZoneInfo, when: datetime) -> str:
    """A time on paper, in the shop's time zone."""
    return when.astimezone(zone).strftime("%Y-%m-%d %H:%M %Z")


def _torques(work: Work, bench: Tally) -> list[TorqueLine]:
    """Every torque step with the stages applied."""
    lines: list[TorqueLine] = []
    for record in bench.done.values():
        ref = StepRef.of(record.step)
        if ref.verb is not Verb.TORQUE:
            continue
        stages = [s for s in record.seen if s.kind in STAGES]
        lines.append(
            TorqueLine(
                name=work.book.components[ref.key].name,
                applied=", ".join(s.typed for s in stages),
                by=record.by,
                words="as the book"
                if record.is_right
                else "; ".join(s.words for s in stages if not s.ok),
            )
        )
    return lines


def _traces(work: Work, bench: Tally) -> list[TraceFigure]:
    """Traces of every torque step, the bolts of one fastener in one picture."""
    plan, found = bench_plan(work), list[TraceFigure]()
    for step in plan.steps if plan else []:
        if step.ref not in bench.done:
            continue
        kept = traces_closed(work, step)
        for fastener in dict.fromkeys(t.fastener for t in kept):
            own = [t for t in kept if t.fastener == fastener]
            bad = [f"bolt {t.bolt}: {t.judged.words}" for t in own if not t.judged.sound]
            found.append(
                TraceFigure(
                    name=f"{step.title}, {counted(len(own), 'bolt')}",
                    svg=traces_svg([(t.trace, t.judged.sound) for t in own], PAPER),
                    words=bad or ["every one sound, as far as its trace tells"],
                )
            )
    return found


def _counts(work: Work, bench: Tally) -> list[str]:
    """Links counted on chains and marks read while fitting."""
    said: list[str] = []
    for record in bench.done.values():
        ref = StepRef.of(record.step)
        if ref.verb is not Verb.FIT:
            continue
        is_chain = work.book.components[ref.key].part in work.book.chains
        said += [
            seen.said
            for seen in record.seen
            if seen.contact or (is_chain and seen.kind is AskedKind.COUNT)
        ]
    return said


def _reading(work: Work, row: ReadingRow, zone: ZoneInfo) -> ReadingLine:
    is_cam = row.kind == ReadingKind.CAM
    name = reading_name(work.book, row.kind, row.part)
    if row.value is None or row.stderr is None:
        value = row.words
    elif is_cam:
        value = f"{late_words(row.value, digits=2)} ± {row.stderr:.2f}"
    else:
        value = f"{row.value:.{2 if row.unit == '%' else 1}f} {row.unit} ± {row.stderr:.2f}"
    phaser = "" if row.phaser_state == "none" or not is_cam else f"phaser {row.phaser_state}"
    return ReadingLine(
        id=str(row.id),
        name=name,
        phase=row.phase,
        phaser=phaser,
        value=value,
        is_figure=row.value is not None,
        typed=row.as_typed,
        instrument=row.instrument,
        capture=row.capture_id,
        by=row.taken_by,
        at=_time(zone, row.taken_at),
        struck=row.struck,
    )
