"""The journal as a hash chain: each entry covers the one before it, so none can be changed, left
out or put between.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from flaneur.core.record.canonical import digest, utc

GENESIS = "0" * 64
FIRST_VERSION = 2  # a job begins at version 1; opening it is its first entry


@dataclass(frozen=True)
class Entry:
    """One entry of a job's journal. ``reverses`` is the version of the entry it takes back, if
    any.
    """

    version: int
    at: datetime
    by: str
    kind: str
    words: str
    data: dict[str, Any]
    reverses: int | None


@dataclass(frozen=True)
class Sealed:
    """An entry with the hash of the one before it and its own."""

    entry: Entry
    previous: str
    hash: str


def entry_hash(number: str, previous: str, entry: Entry) -> str:
    """SHA-256 over the job's number, the hash before, and everything the entry says."""
    return digest(
        {
            "job": number,
            "previous": previous,
            "version": entry.version,
            "at": utc(entry.at),
            "by": entry.by,
            "kind": entry.kind,
            "words": entry.words,
            "data": entry.data,
            "reverses": entry.reverses,
        }
    )


def seal_all(number: str, entries: Sequence[Entry]) -> list[Sealed]:
    """A whole journal chained from its beginning."""
    sealed: list[Sealed] = []
    previous = GENESIS
    for entry in entries:
        own = entry_hash(number, previous, entry)
        sealed.append(Sealed(entry, previous, own))
        previous = own
    return sealed


def chain_faults(number: str, chain: Sequence[Sealed]) -> list[str]:
    """What is wrong with a chain, one line a fault; none when it holds."""
    faults: list[str] = []
    previous, version, at = GENESIS, FIRST_VERSION, None
    for link in chain:
        entry = link.entry
        if entry.version != version:
            faults.append(f"entry {entry.version} stands where entry {version} is expected")
        if at is not None and entry.at < at:
            faults.append(f"entry {entry.version} is dated before the entry it follows")
        if link.previous != previous:
            faults.append(f"entry {entry.version} does not follow the entry before it")
        if link.hash != entry_hash(number, link.previous, entry):
            faults.append(f"entry {entry.version} was changed after it was written")
        previous, version, at = link.hash, entry.version + 1, entry.at
    return faults or ([] if chain else ["the journal is empty"])


def head_of(chain: Sequence[Sealed]) -> str:
    """The hash of the newest entry, which stands for the whole journal."""
    return chain[-1].hash if chain else GENESIS
