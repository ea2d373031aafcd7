"""Second looks: a link that shows a colleague one step with its photographs, for one answer."""

import hashlib
import secrets
from collections.abc import Generator
from contextlib import contextmanager
from datetime import datetime

from sqlalchemy import Engine
from sqlmodel import Session, col, select

from flaneur.core.bench.closing import step_of
from flaneur.core.bench.looking import GOOD_FOR, OPINION_WORDS, Opinion, must_be_open
from flaneur.core.errors import StepError
from flaneur.core.job.change import Change
from flaneur.core.plan.steps import PlanStep
from flaneur.formats.photos import read_photo
from flaneur.jobs.work import Work
from flaneur.store.changes import NotFound, job_for_change, record
from flaneur.store.database import transaction
from flaneur.store.jobs import job_by_id
from flaneur.store.plans import plan_of
from flaneur.store.readings import step_photos
from flaneur.store.tables import Job, JournalEntry, Photo, SecondLook, now

MOST_PHOTOS_OF_A_STEP = 40


def add_photo(
    work: Work, ref: str, content: bytes, name: str, caption: str
) -> tuple[JournalEntry, int]:
    """Add a photograph to a step, re-encoded and without camera data. Raises StepError and
    ReadingError.
    """
    step = step_of(plan_of(work.job), ref)
    if len(step_photos(work.session, work.job_id).get(ref, [])) >= MOST_PHOTOS_OF_A_STEP:
        raise StepError(
            "This step has photographs enough.",
            read=f"{MOST_PHOTOS_OF_A_STEP} of it",
            expected="those that show something",
        )
    picture = read_photo(content, name)
    photo = Photo(
        job_id=work.job_id,
        step=ref,
        caption=caption.strip(),
        width=picture.width,
        height=picture.height,
        content=picture.webp,
        small=picture.small,
        taken_by=work.by,
    )
    work.session.add(photo)
    work.session.flush()
    said = f": {photo.caption}" if photo.caption else ""
    entry = work.record(Change.PHOTO, f"Photograph added, {step.title}{said}.", {"step": ref})
    return entry, photo.id or 0


def ask(work: Work, ref: str, question: str) -> tuple[JournalEntry, str, datetime]:
    """Ask for a second look at a step: what the link holds, which is kept nowhere, and until when
    it is good. Raises StepError.
    """
    step = step_of(plan_of(work.job), ref)
    token, until = secrets.token_urlsafe(24), now() + GOOD_FOR
    work.session.add(
        SecondLook(
            job_id=work.job_id,
            step=ref,
            question=question.strip(),
            token=_kept(token),
            asked_by=work.by,
            until=until,
        )
    )
    words = f"Second look asked for, {step.title}: {question.strip()}"
    return work.record(Change.SECOND_LOOK, words), token, until


def _kept(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


@contextmanager
def looking_at(engine: Engine, token: str) -> Generator[tuple[Session, Job, PlanStep, SecondLook]]:
    """What the holder of a link sees. Raises NotFound for a link nobody gave, StepError for one
    that was answered or is too old.
    """
    with transaction(engine) as session:
        look = _look(session, token)
        job = job_by_id(session, look.job_id)
        yield session, job, step_of(plan_of(job), look.step), look


def _look(session: Session, token: str) -> SecondLook:
    query = select(SecondLook).where(col(SecondLook.token) == _kept(token))
    look = session.exec(query).first()
    if look is None:
        raise NotFound(
            "There is no such question.",
            read=f"…{token[-6:]}",
            advice="Look whether the link was copied whole.",
        )
    must_be_open(look.until, look.answered_at, now())
    return look


def answer(engine: Engine, token: str, name: str, opinion: Opinion, said: str) -> str:
    """Keep a colleague's one answer, by the name they give, which nobody here checked; the words it
    is kept in. Raises NotFound and StepError.
    """
    with transaction(engine) as session:
        job = job_for_change(session, _look(session, token).job_id, None, even_released=True)
        look = _look(session, token)  # as it is now that nobody else holds the job
        session.refresh(look)
        must_be_open(look.until, look.answered_at, now())
        look.answered_by, look.opinion, look.answer = name, opinion, said.strip()
        look.answered_at = now()
        session.add(look)
        title = step_of(plan_of(job), look.step).title
        words = f"{title}: {OPINION_WORDS[opinion]}."
        told = f" {said.strip()}" if said.strip() else ""
        by = f"{name} (by link)"
        record(session, job, by, Change.SECOND_LOOK, f"Second look by link, {words}{told}")
        return f"{words}{told}"
