"""Whether report, journal and rows of a job file belong together, line by line."""

import base64
import hashlib
from dataclasses import dataclass

from flaneur.core.errors import CaptureError
from flaneur.core.record.canonical import canonical, digest, digest_of_text
from flaneur.core.record.chain import Entry, Sealed, chain_faults, head_of
from flaneur.core.signals.digest import samples_digest
from flaneur.formats.archive.models import Archive, JournalPart, Wrapper
from flaneur.formats.archive.seal import Seal, is_signed, public_key_of, sign_text
from flaneur.formats.captures import from_parquet

NOT_KEPT = "no longer kept: only their digest is, under the seal"


@dataclass(frozen=True)
class Finding:
    """One thing looked at: what it is, whether it holds, and what was found; not ``is_compared``:
    there is nothing any more that it could be held against.
    """

    what: str
    holds: bool
    words: str
    is_compared: bool = True


@dataclass(frozen=True)
class Verified:
    """All that was looked at. ``keys`` signed it: of the seal, and of the file as a whole."""

    findings: list[Finding]
    keys: tuple[str, ...]

    @property
    def holds(self) -> bool:
        """Whether every finding holds."""
        return all(finding.holds for finding in self.findings)

    @property
    def first_fault(self) -> str:
        """The first finding that does not hold, in words."""
        return next((f"{f.what}: {f.words}" for f in self.findings if not f.holds), "")


def chain_in(journal: list[JournalPart]) -> list[Sealed]:
    """The journal of a file as a chain."""
    return [
        Sealed(
            Entry(e.version, e.at, e.by, e.kind, e.words, e.data, e.reverses),
            previous=e.previous or "",
            hash=e.hash or "",
        )
        for e in journal
    ]


def wrap(archive: Archive, pem: str) -> Archive:
    """The file with the depot's signature over all of it."""
    whole = _whole(archive)
    wrapper = Wrapper(
        sha256=digest_of_text(whole), public_key=public_key_of(pem), signature=sign_text(pem, whole)
    )
    return archive.model_copy(update={"wrapper": wrapper})


def verify_archive(archive: Archive) -> Verified:
    """Look at every part of a signed job's file. Who may be trusted is not asked here."""
    findings = [_wrapper(archive), _journal(archive), *_samples(archive)]
    seal = archive.seal
    if seal is None or archive.report is None:
        findings.append(Finding("seal", False, "the file carries no sealed report"))
        return Verified(findings, ())
    findings += [
        sealed_by(seal),
        _same("journal's head", head_of(chain_in(archive.journal)), seal.statement.head),
        _same("rows", digest(archive.content()), seal.statement.content_sha256),
        *report_findings(archive.report.html, base64.b64decode(archive.report.pdf), seal),
        _same("engine book", digest_of_text(archive.book), seal.statement.book_sha256),
        _signature_words(archive, seal),
        *_addenda(archive, seal),
    ]
    wrapper = archive.wrapper
    added = sorted({part.public_key for part in archive.addenda} - {seal.public_key})
    return Verified(findings, (seal.public_key, *([wrapper.public_key] if wrapper else []), *added))


def _addenda(archive: Archive, seal: Seal) -> list[Finding]:
    """Whether each addition is signed, is to this report, and none of them is missing."""
    found = list[Finding]()
    for place, part in enumerate(archive.addenda, 1):
        said = part.statement
        is_here = (said.number, said.head, said.place) == (
            seal.statement.number,
            seal.statement.head,
            place,
        )
        words = (
            f"by {said.by}, {said.at:%Y-%m-%d %H:%M} UTC"
            if part.holds and is_here
            else "it is to another report, or one before it is missing"
            if part.holds
            else "the signature is not this key's"
        )
        found.append(Finding(f"addition {place}", part.holds and is_here, words))
    return found


def sealed_by(seal: Seal) -> Finding:
    """Whether the seal's signature is its key's."""
    words = (
        f"by “{seal.statement.depot}”, key {seal.public_key}"
        if seal.holds
        else "the signature is not this key's"
    )
    return Finding("seal", seal.holds, words)


def report_findings(html: str, pdf: bytes, seal: Seal) -> list[Finding]:
    """Whether a report is the one that was sealed, as page and as PDF."""
    return [
        _same("report", digest_of_text(html), seal.statement.report_sha256),
        _same("report as PDF", hashlib.sha256(pdf).hexdigest(), seal.statement.pdf_sha256),
    ]


def journal_finding(number: str, chain: list[Sealed]) -> Finding:
    """Whether a journal holds as a chain."""
    faults = chain_faults(number, chain)
    return Finding(
        "journal",
        not faults,
        faults[0] if faults else f"{len(chain)} entries, each follows the one before",
    )


def _journal(archive: Archive) -> Finding:
    return journal_finding(archive.job.number, chain_in(archive.journal))


def _same(what: str, found: str, sealed: str) -> Finding:
    holds = found == sealed
    return Finding(
        what,
        holds,
        f"{found[:16]}… as sealed" if holds else f"{found[:16]}…, sealed was {sealed[:16]}…",
    )


def _signature_words(archive: Archive, seal: Seal) -> Finding:
    """Number, signer and time stand in four places, which must agree."""
    job, report, said = archive.job, archive.report, seal.statement
    assert report is not None
    last = archive.journal[-1] if archive.journal else None
    agree = (
        job.number == said.number
        and {job.signed_by, report.signed_by, said.signed_by} == {said.signed_by}
        and {job.signed_at, report.signed_at, said.signed_at} == {said.signed_at}
        and report.sha256 == said.report_sha256
        and last is not None
        and last.version == job.version
        and last.kind == "signed"
        and last.by == said.signed_by
    )
    words = f"{said.number} by {said.signed_by}, {said.signed_at:%Y-%m-%d %H:%M} UTC"
    return Finding(
        "signature",
        agree,
        words if agree else "job, report, journal and seal name different numbers, people or times",
    )


def _samples(archive: Archive) -> list[Finding]:
    findings: list[Finding] = []
    for number, capture in enumerate(archive.captures, 1):
        what = f"samples of capture {number}"
        if not capture.content:
            findings.append(Finding(what, True, NOT_KEPT, is_compared=False))
            continue
        try:
            found = samples_digest(from_parquet(base64.b64decode(capture.content)))
        except CaptureError as error:
            findings.append(Finding(what, False, error.message))
            continue
        findings.append(_same(what, found, capture.sha256 or "none"))
    return findings


def _wrapper(archive: Archive) -> Finding:
    """Whether anything in the file was changed after it was written out."""
    wrapper = archive.wrapper
    if wrapper is None:
        return Finding("file", False, "the file as a whole is not signed")
    whole = _whole(archive)
    holds = wrapper.sha256 == digest_of_text(whole) and is_signed(
        wrapper.public_key, wrapper.signature, whole
    )
    return Finding(
        "file",
        holds,
        "unchanged since it was written out" if holds else "changed after it was written out",
    )


def _whole(archive: Archive) -> str:
    return canonical(archive.model_dump(exclude={"wrapper"}))
