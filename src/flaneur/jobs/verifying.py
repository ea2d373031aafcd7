"""Whether a report or a job file belongs together with its journal, and with what a database holds:
line by line.
"""

import hashlib
from collections.abc import Iterator
from pathlib import Path

from sqlmodel import Session, col, select

from flaneur.core.errors import RecordError
from flaneur.core.record.canonical import digest, digest_of_text
from flaneur.core.signals.digest import samples_digest
from flaneur.formats.archive import Archive, Seal, is_packed, read_archive, verify_archive
from flaneur.formats.archive.verify import (
    NOT_KEPT,
    Finding,
    journal_finding,
    report_findings,
    sealed_by,
)
from flaneur.formats.report import split_seal
from flaneur.store.blocks import load_capture
from flaneur.store.changes import chain_of
from flaneur.store.database import one_look
from flaneur.store.exporting import export_job, report_of, seal_of
from flaneur.store.keeping import is_let_go
from flaneur.store.readings import captures_of
from flaneur.store.tables import Job


def verify_file(path: Path, database_url: str | None, keys: list[str]) -> Iterator[Finding]:
    """All that can be found out about a report (page or PDF) or a job file. Raises RecordError when
    it is neither.

    ``keys`` are the public keys to believe; without any, the key is named and left to the reader.
    """
    content = path.read_bytes()
    if content.startswith(b"%PDF"):
        yield from _pdf(content, database_url)
        return
    text = content.decode("utf-8", "replace")
    is_job = is_packed(content) or text.lstrip().startswith("{")
    archive = read_archive(content) if is_job else None
    if archive is None and "<html" not in text[:400]:
        raise RecordError(
            "This is neither a report nor a job file.",
            read=f"{path.name}: {text[:30]!r}",
            expected="HTML, PDF, zip or JSON of Flaneur",
        )
    seal = archive.seal if archive else split_seal(text)[1]
    yield from verify_archive(archive).findings if archive else _page(text)
    yield from _keys(archive, seal, keys)
    number = archive.job.number if archive else seal.statement.number if seal else None
    if database_url and number:
        yield from _database(database_url, number, seal)


def _page(text: str) -> Iterator[Finding]:
    html, seal = split_seal(text)
    if seal is None:
        yield Finding(
            "seal", False, "the report carries no seal: a draft, or taken from somewhere else"
        )
        return
    yield sealed_by(seal)
    yield report_findings(html, b"", seal)[0]
    holds = seal.statement.head in html
    yield Finding(
        "journal's head",
        holds,
        "printed in the report as sealed" if holds else "the report prints another",
    )


def _keys(archive: Archive | None, seal: Seal | None, keys: list[str]) -> Iterator[Finding]:
    wrapper = archive.wrapper if archive else None
    used = [
        key
        for key in (seal.public_key if seal else None, wrapper.public_key if wrapper else None)
        if key
    ]
    if keys and used:
        strangers = [key for key in used if key not in keys]
        yield Finding(
            "key",
            not strangers,
            f"{strangers[0]} is not one of those named" if strangers else "one of those named",
        )


def _pdf(content: bytes, database_url: str | None) -> Iterator[Finding]:
    if database_url is None:
        raise RecordError(
            "A PDF carries no seal of its own.",
            expected="--database, or the report as a page, or the job file",
        )
    found = hashlib.sha256(content).hexdigest()
    with one_look(database_url) as session:
        for job in session.exec(select(Job).where(col(Job.signed_at).is_not(None))):
            seal = seal_of(report_of(session, job))
            if seal and seal.statement.pdf_sha256 == found:
                yield Finding("report as PDF", True, f"the signed report of {job.number}")
                yield from _of_job(session, job, seal)
                return
    yield Finding("report as PDF", False, "no signed report of this database is this PDF")


def _database(url: str, number: str, seal: Seal | None) -> Iterator[Finding]:
    with one_look(url) as session:
        job = session.exec(select(Job).where(Job.number == number)).first()
        if job is None:
            yield Finding("database", False, f"it holds no job {number}")
            return
        yield from _of_job(session, job, seal)


def _of_job(session: Session, job: Job, seal: Seal | None) -> Iterator[Finding]:
    """Whether what the database holds of a job is what was sealed."""
    chain = chain_of(session, job.id or 0)
    journal = journal_finding(job.number, chain)
    yield Finding("database: journal", journal.holds, journal.words)
    for row in captures_of(session, job.id or 0):
        if is_let_go(session, row):
            what = f"database: samples of C{row.id}"
            yield Finding(what, True, NOT_KEPT, is_compared=False)
            continue
        holds = samples_digest(load_capture(session, row)) == row.sha256
        if not holds:
            yield Finding(f"database: samples of C{row.id}", False, "changed after they were kept")
    report = report_of(session, job)
    kept = seal_of(report)
    if report is None or kept is None:
        yield Finding("database: seal", seal is None, "the job is not sealed there")
        return
    same = seal is None or (seal.statement == kept.statement and seal.signature == kept.signature)
    yield Finding(
        "database: seal",
        same and kept.holds,
        "the same seal" if same else "another seal than in the file",
    )
    content = export_job(session, job, with_samples=False)
    said = kept.statement
    for what, found, sealed in (
        ("journal's head", chain[-1].hash if chain else "", said.head),
        ("rows", digest(content.content()), said.content_sha256),
        ("report", digest_of_text(report.html), said.report_sha256),
        ("engine book", digest_of_text(content.book), said.book_sha256),
    ):
        yield Finding(
            f"database: {what}",
            found == sealed,
            "as sealed" if found == sealed else "changed after it was sealed",
        )
