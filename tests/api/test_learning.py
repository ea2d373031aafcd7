"""What closed jobs of a shop say of how parts wear, for the jobs opened after them."""

from dataclasses import replace

from sqlmodel import Session, col, select
from tests.api.conftest import House

from flaneur.core.people import Person
from flaneur.jobs.learning import learned_for
from flaneur.jobs.work import Work
from flaneur.store.database import transaction
from flaneur.store.depot import book_of
from flaneur.store.tables import Book, Job

PELL = Person("Pell Orrin")


def work_on(session: Session, job: Job) -> Work:
    return Work(session, job, book_of(session, job.book_id), PELL)


def newest(session: Session) -> Job:
    return session.exec(select(Job).order_by(col(Job.id).desc())).first()


def test_only_jobs_signed_before_it_was_opened_tell(signed_house: House) -> None:
    house = signed_house
    house.visitor().send("POST", "/api/jobs", {"unit_id": house.unit_id})
    with transaction(house.engine) as session:
        (chains,) = learned_for(work_on(session, newest(session)))
        assert (chains.kind, chains.engines, chains.parts) == ("chain", 1, 1)
        assert chains.times > 1
        assert learned_for(work_on(session, session.get(Job, 1))) == []


def test_a_part_that_the_book_calls_otherwise_now_says_nothing(signed_house: House) -> None:
    house = signed_house
    house.visitor().send("POST", "/api/jobs", {"unit_id": house.unit_id})
    with transaction(house.engine) as session:
        work = work_on(session, newest(session))
        chains = {k: c for k, c in work.book.chains.items() if k != "chain_b"}
        other = replace(work, book=work.book.model_copy(update={"chains": chains}))
        assert learned_for(work)
        assert learned_for(other) == []


def test_engines_of_another_book_say_nothing_of_this_one(signed_house: House) -> None:
    house = signed_house
    house.visitor().send("POST", "/api/jobs", {"unit_id": house.unit_id})
    with transaction(house.engine) as session:
        work = work_on(session, newest(session))
        other = session.exec(select(Book.id).where(Book.name != work.book.name)).first()
        moved = replace(work, job=Job(**work.job.model_dump(exclude={"id"}) | {"book_id": other}))
        assert learned_for(work)
        assert learned_for(moved) == []
