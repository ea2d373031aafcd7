"""Books of the shop's own: taken in when every check passes, current when another lead says so."""

from datetime import timedelta

import pytest
from demo.walk import Visitor
from sqlmodel import Session
from tests.api.conftest import House, refusal
from tests.support.depot import BOOK_FILE

from flaneur.core.people import Person
from flaneur.jobs.books import AdoptionRefused, adopt
from flaneur.store.database import transaction
from flaneur.store.tables import Book, Job, now

TEXT = BOOK_FILE.read_text(encoding="utf-8")


def revision(number: int, allowed: str = "2.5") -> str:
    changed = TEXT.replace("revision: 4", f"revision: {number}", 1)
    return changed.replace("cam_deviation_deg: 3.5", f"cam_deviation_deg: {allowed}", 1)


@pytest.fixture
def lead(house: House) -> Visitor:
    return house.visitor("sunna")


def test_a_revision_serves_new_jobs_once_another_lead_says_so(
    house: House, lead: Visitor, job: int
) -> None:
    ivo = house.visitor("ivo")
    people = lead.send("GET", "/api/people")["people"]
    key = next(p["id"] for p in people if p["login"] == "ivo")
    lead.send("PUT", f"/api/people/{key}/role", {"role": "lead"})
    listed = lead.send("POST", "/api/books", {"text": revision(5)})["books"]
    waiting = next(b for b in listed if not b["is_adopted"])
    assert (waiting["revision"], waiting["came_by"]) == (5, "Sunna Quill")
    seen = lead.send("GET", f"/api/books/{waiting['id']}/changes")
    assert seen["against"] == 4
    limit = next(c for c in seen["changes"] if c["where"] == "Limit: Cam against the book")
    assert "2.5°" in limit["after"]
    status, error = refusal(lead, "POST", f"/api/books/{waiting['id']}/adopt", {})
    assert (status, error["message"]) == (422, "Another lead decides about this book.")
    ivo.send("POST", f"/api/books/{waiting['id']}/adopt", {})
    new = ivo.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]
    with Session(house.engine) as session:
        books = [session.get_one(Job, key).book_id for key in (job, new)]
    assert books == [1, waiting["id"]], "the job under way keeps its book"


def test_the_only_lead_sleeps_on_it(house: House, lead: Visitor) -> None:
    listed = lead.send("POST", "/api/books", {"text": revision(5)})["books"]
    waiting = next(b["id"] for b in listed if not b["is_adopted"])
    assert refusal(lead, "POST", f"/api/books/{waiting}/adopt", {})[1]["message"] == "Sleep on it."
    sunna = Person("Sunna Quill", 2)
    with transaction(house.engine, sunna) as session:
        with pytest.raises(AdoptionRefused):
            adopt(session, waiting, sunna)
        adopt(session, waiting, sunna, at=now() + timedelta(days=1))
    with Session(house.engine) as session:
        assert session.get_one(Book, waiting).adopted_by == "Sunna Quill"


def test_a_book_with_faults_is_refused_with_each_of_them(house: House, lead: Visitor) -> None:
    links = TEXT.replace("links: ", "links: 9", 1)
    status, error = refusal(lead, "POST", "/api/books", {"text": links})
    assert (status, error["code"]) == (422, "book_unusable")
    assert error["faults"]
    twice = refusal(lead, "POST", "/api/books", {"text": revision(4)})[1]
    assert twice["expected"] == "revision 5 or later"
    assert refusal(house.visitor(), "POST", "/api/books", {"text": TEXT})[0] == 403
    with Session(house.engine) as session:
        assert session.get(Book, 2) is None
