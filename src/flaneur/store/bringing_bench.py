"""What was done at the bench and after, in from a job's file."""

import secrets
from collections.abc import Callable

from sqlmodel import Session

from flaneur.formats.archive import Archive
from flaneur.store.tables import (
    Addendum,
    BenchEvent,
    BenchRecord,
    FollowUp,
    PutIn,
    SecondLook,
    Shift,
)


def bring_bench(
    session: Session, archive: Archive, job_id: int, named: Callable[[str], str]
) -> None:
    """What was done at the bench: answers, what happened within steps, what was laid in, shifts and
    second looks, each in its name as it is ``named`` here. A link of the file's second looks opens
    nothing.
    """
    for record_ in archive.bench:
        values = record_.model_dump(mode="json", exclude={"done_at", "done_by"})
        session.add(
            BenchRecord(
                **values,
                done_at=record_.done_at,
                done_by=named(record_.done_by),
                job_id=job_id,
            )
        )
        session.flush()
    others = (
        *((BenchEvent, part, ("by",)) for part in archive.events),
        *((PutIn, part, ("by",)) for part in archive.put_in),
        *((Shift, part, ("given_by", "taken_by")) for part in archive.shifts),
        *((SecondLook, part, ("asked_by", "answered_by")) for part in archive.looks),
    )
    for table, part, names in others:
        values = part.model_dump()
        values |= {n: named(values[n]) for n in names if values[n] is not None}
        if table is SecondLook:
            values["token"] = secrets.token_hex(32)
        session.add(table(**values, job_id=job_id))
        session.flush()


def bring_after(
    session: Session,
    archive: Archive,
    job_id: int,
    named: Callable[[str], str],
    is_believed: bool,
) -> None:
    """What is or was due after the job; additions to its report only where its seal is believed,
    for there is no report to add to else.
    """
    for part in archive.follow_ups:
        values = part.model_dump()
        values |= {n: named(values[n]) for n in ("made_by", "done_by") if values[n] is not None}
        session.add(FollowUp(**values, job_id=job_id))
    for part in archive.addenda if is_believed else []:
        said = part.statement
        session.add(
            Addendum(
                job_id=job_id,
                place=said.place,
                text=said.text,
                by=said.by,
                at=said.at,
                statement=said.model_dump(mode="json"),
                signature=part.signature,
                public_key=part.public_key,
            )
        )
    session.flush()
