"""Every capture read again when the decoder or a book has changed: of a database, or of a folder.

What was read is kept line by line in a file of its own; begun again, only what is not in it is
read. Nothing is replaced before the differences were looked at.
"""

import hashlib
from collections.abc import Callable, Generator, Iterable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import cache, lru_cache
from pathlib import Path

from pydantic import ValidationError
from sqlalchemy import Engine
from sqlmodel import Session

import flaneur.core
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, FlaneurError
from flaneur.core.job.change import Change
from flaneur.core.people import Person
from flaneur.core.record.canonical import digest
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.rereading import Difference, ReadAgain, differences, read_of
from flaneur.core.wording import counted
from flaneur.formats.books import load_book
from flaneur.formats.captures import from_parquet
from flaneur.jobs.looking import left_out_of, read_without
from flaneur.jobs.work import changing
from flaneur.store.blocks import load_capture
from flaneur.store.database import JobClosed, connect, transaction
from flaneur.store.depot import book_of
from flaneur.store.jobs import job_by_id
from flaneur.store.rereading import captures_at, read_before
from flaneur.store.tables import CaptureRow


@cache
def decoder() -> str:
    """A digest of the code that captures are read by."""
    folder = Path(flaneur.core.__file__).parent
    found = hashlib.sha256()
    for path in sorted(folder.rglob("*.py")):
        found.update(path.read_bytes())
    return found.hexdigest()


@dataclass(frozen=True)
class InFolder:
    """A capture that lies in a file, with the book it is read by."""

    path: str
    book: str
    mark: str
    before_deg: Mapping[str, float] = field(default_factory=dict[str, float])

    @property
    def key(self) -> str:
        """What it is called."""
        return Path(self.path).name


@dataclass(frozen=True)
class InDatabase:
    """A capture of a database."""

    url: str
    capture_id: int
    job: str
    engine: str
    mark: str
    before_deg: Mapping[str, float] = field(default_factory=dict[str, float])

    @property
    def key(self) -> str:
        """What it is called."""
        return f"{self.job}/C{self.capture_id}"


Kept = InFolder | InDatabase


def in_folder(folder: Path, book: Path, before: Mapping[str, ReadAgain]) -> list[InFolder]:
    """The captures of a folder (Parquet), by name; ``before``: what was read of them last."""
    text = hashlib.sha256(book.read_bytes()).hexdigest()
    found = list[InFolder]()
    for path in sorted(folder.glob("*.parquet")):
        content = hashlib.sha256(path.read_bytes()).hexdigest()
        was = before.get(path.name)
        mark = digest([content, text, decoder()])
        found.append(InFolder(str(path), str(book), mark, was.late_deg if was else {}))
    return found


def in_database(url: str) -> list[InDatabase]:
    """The captures of a database that count and whose samples are kept, oldest first."""
    with transaction(_engine(url)) as session:
        before = read_before(session)
        return [
            InDatabase(
                url,
                row.id,
                row.job,
                row.engine,
                digest([row.sha256, row.book, row.left_out, decoder()]),
                before.get(row.id, {}),
            )
            for row in captures_at(session)
        ]


@lru_cache(maxsize=2)
def _engine(url: str) -> Engine:
    return connect(url)


@lru_cache(maxsize=16)
def _book(path: str) -> EngineBook:
    return load_book(Path(path))


def read(kept: Kept) -> ReadAgain:
    """Read one capture again; what cannot be read says why."""
    try:
        if isinstance(kept, InFolder):
            book = _book(kept.book)
            capture = from_parquet(Path(kept.path).read_bytes())
            return _read(kept, capture, book, book.name, [])
        with transaction(_engine(kept.url)) as session:
            row, book, capture = _loaded(session, kept.capture_id)
        return _read(kept, capture, book, kept.engine, left_out_of(row))
    except FlaneurError as error:
        engine = kept.engine if isinstance(kept, InDatabase) else ""
        return ReadAgain(capture=kept.key, engine=engine, mark=kept.mark, refused=error.message)


def _loaded(session: Session, capture_id: int) -> tuple[CaptureRow, EngineBook, Capture]:
    row = session.get_one(CaptureRow, capture_id)
    job = job_by_id(session, row.job_id)
    return row, book_of(session, job.book_id), load_capture(session, row)


def _read(
    kept: Kept,
    capture: Capture,
    book: EngineBook,
    engine: str,
    left_out: Sequence[tuple[float, float]],
) -> ReadAgain:
    return read_of(correlate(capture, book, left_out), kept.key, engine, kept.mark)


def kept_lines(file: Path) -> dict[str, ReadAgain]:
    """What a file has of each capture, the last line of each; a line that was half written when the
    power went is none.
    """
    found = dict[str, ReadAgain]()
    if file.exists():
        for line in file.read_text(encoding="utf-8").splitlines():
            try:
                one = ReadAgain.model_validate_json(line)
            except ValidationError:
                continue
            found[one.capture] = one
    return found


@contextmanager
def writing(file: Path) -> Generator[Callable[[ReadAgain], None]]:
    """A file of what was read, to be gone on with: each line is in it once it was given."""
    is_torn = file.exists() and file.read_bytes()[-1:] not in (b"", b"\n")
    with file.open("a", encoding="utf-8") as out:

        def write(one: ReadAgain) -> None:
            out.write(one.model_dump_json() + "\n")
            out.flush()

        if is_torn:
            out.write("\n")
        yield write


def to_read(every: Iterable[Kept], known: Mapping[str, ReadAgain]) -> list[Kept]:
    """What is not known yet as it would be read now."""
    return [k for k in every if (was := known.get(k.key)) is None or was.mark != k.mark]


def compared(every: Iterable[Kept], known: Mapping[str, ReadAgain]) -> Iterator[Difference]:
    """What reads otherwise now, by engine."""
    found = [
        one
        for kept in every
        if (now := known.get(kept.key)) is not None and not now.refused and kept.before_deg
        for one in differences(kept.before_deg, now)
    ]
    yield from sorted(found, key=lambda d: d.engine)


@dataclass(frozen=True)
class Replaced:
    """Captures whose new reading took the place of the old, and jobs that stand as they are."""

    captures: list[str]
    stand: list[str]


def replace(found: Iterable[Difference], every: Iterable[InDatabase], by: Person) -> Replaced:
    """Put new readings in the place of old ones, in every job that is neither signed nor released;
    the old ones stay readable, struck out.
    """
    wanted = {d.capture for d in found}
    captures, stand = list[str](), list[str]()
    for kept in every:
        if kept.key not in wanted:
            continue
        with transaction(_engine(kept.url)) as session:
            job_id = session.get_one(CaptureRow, kept.capture_id).job_id
        try:
            with changing(_engine(kept.url), job_id, None, by) as work:
                row = work.session.get_one(CaptureRow, kept.capture_id)
                read_without(work, row, row.left_out)
                words = f"Read again by the decoder of today: the capture of {row.source}."
                work.record(Change.READ_AGAIN, words, {"capture": row.id})
            captures.append(kept.key)
        except (JobClosed, CaptureError):
            stand.append(kept.key)
    return Replaced(captures, stand)


def words_of(replaced: Replaced) -> str:
    """What was replaced."""
    done = f"{counted(len(replaced.captures), 'capture')} replaced"
    if not replaced.stand:
        return f"{done}."
    return f"{done}; {counted(len(replaced.stand), 'capture')} of closed jobs stand as they are."
