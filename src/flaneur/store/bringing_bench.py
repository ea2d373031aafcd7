"""What was done at the bench, in from a job's file."""

import secrets
from collections.abc import Callable

from sqlmodel import Session

from flaneur.formats.archive import Archive
from flaneur.store.tables import BenchEvent, BenchRecord, PutIn, SecondLook, Shift


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
