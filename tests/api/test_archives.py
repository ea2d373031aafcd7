"""Jobs as files: signed where the seal verifies, open where it does not, nothing where they cannot
be read.
"""

import base64
import copy
import io
import json
import zipfile
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor, plunger_sheet
from sqlmodel import Session, func, select
from tests.api.conftest import (
    House,
    archive_of,
    bring_in,
    build,
    capture,
    key_file,
    open_house,
    refusal,
    work_bench,
)
from tests.support.cluster import Cluster

from flaneur.core.faults.model import Faults
from flaneur.core.record.canonical import digest
from flaneur.formats.archive import (
    Archive,
    Statement,
    public_key_of,
    sign_statement,
    verify_archive,
    wrap,
)
from flaneur.formats.archive.verify import chain_in
from flaneur.formats.captures import from_parquet
from flaneur.formats.report import split_seal
from flaneur.simulation.server import Server
from flaneur.store.tables import BenchRecord, Book, CaptureRow, Job, JournalEntry, ReadingRow, Unit

Json = dict[str, Any]


@pytest.fixture(scope="module")
def exported(cluster: Cluster, signed_database: str, box: Server) -> Json:
    """A signed job of the depot, as its file."""
    home = open_house(cluster.clone(signed_database), box)
    found = archive_of(home.visitor(), 1)
    home.close()
    return found


@pytest.fixture
def empty(cluster: Cluster, box: Server) -> Iterator[House]:
    """The same depot with an empty database: its people, its key, and nothing else."""
    found = build(cluster.new_database(), box, has_unit=False)
    yield found
    found.close()


def send(house: House, archive: Json) -> tuple[int, Json]:
    return bring_in(house.visitor(), json.dumps(archive).encode())


def rows(house: House) -> dict[str, int]:
    with Session(house.engine) as session:
        tables = (Job, JournalEntry, ReadingRow, CaptureRow, BenchRecord, Book, Unit)
        return {t.__name__: session.exec(select(func.count()).select_from(t)).one() for t in tables}


def test_the_file_makes_the_same_signed_job_in_an_empty_database(
    exported: Json, empty: House
) -> None:
    status, answer = send(empty, exported)
    assert status == 200, answer
    visitor = empty.visitor()
    assert archive_of(visitor, answer["id"]) == exported
    handover = visitor.send("GET", f"/api/jobs/{answer['id']}/handover")
    assert handover["is_signed"]
    assert handover["signed_at_depot"] is None
    assert handover["head"] == exported["journal"][-1]["hash"]
    assert send(empty, exported)[1]["message"] == "This job is already here."
    body = {"complaint": "Rewritten.", "version": exported["job"]["version"]}
    assert refusal(visitor, "PUT", f"/api/jobs/{answer['id']}/intake", body)[0] == 409


def _reading(archive: Json) -> None:
    archive["readings"][0]["value"] += 1.0


def _signer(archive: Json) -> None:
    archive["job"]["signed_by"] = archive["report"]["signed_by"] = "Sunna Forger"


def _report(archive: Json) -> None:
    archive["report"]["html"] = (
        "<html><form action=/api/session><input type=password></form></html>"
    )


def _journal(archive: Json) -> None:
    del archive["journal"][-2]


def _zeros(archive: Json) -> None:
    for entry in archive["journal"]:
        entry["hash"] = "0" * 64


def _seal(archive: Json) -> None:
    archive["seal"]["signature"] = "0" * 128


def _no_wrapper(archive: Json) -> None:
    archive["wrapper"] = None


def _samples(archive: Json) -> None:
    first, second = archive["captures"]
    first["content"], second["content"] = second["content"], first["content"]


def _laid(archive: Json) -> None:
    archive["put_in"][1]["count"] = -1


def _taker(archive: Json) -> None:
    archive["shifts"][0]["taken_by"] = "Sunna Forger"


def _answer(archive: Json) -> None:
    archive["looks"][0]["question"] = "Was it right?"


def _other_step(archive: Json) -> None:
    archive["photos"][0]["step"] = "op:drain_oil"


@pytest.mark.parametrize(
    "change",
    [
        *(_reading, _signer, _report, _journal, _zeros, _seal, _no_wrapper, _samples),
        *(_laid, _taker, _answer, _other_step),
    ],
)
def test_whatever_was_changed_comes_in_open_and_says_so(
    exported: Json, empty: House, change: Callable[[Json], None]
) -> None:
    archive = copy.deepcopy(exported)
    change(archive)
    status, answer = send(empty, archive)
    assert status == 200, answer
    visitor, job = empty.visitor(), answer["id"]
    head = visitor.send("GET", f"/api/jobs/{job}")
    assert not head["is_signed"]
    assert not head["is_released"]
    assert "not taken as signed: it does not hold together" in head["import_note"]
    assert head["imported_by"] == "Ivo Tarnholt"
    assert {n["by"] for n in head["notebook"]} == {"Ivo Tarnholt"}, (
        "nobody's name stands under what nobody here saw"
    )
    assert head["notebook"][1]["words"].startswith("The file says: Ivo Tarnholt, ")
    assert "password" not in visitor.client.get(f"/api/jobs/{job}/report.html").text
    readings = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    assert all(r["taken_by"] == "Ivo Tarnholt (from a file)" for r in readings)


def test_a_figure_that_came_from_samples_is_read_from_them_again(
    exported: Json, empty: House
) -> None:
    archive = copy.deepcopy(exported)
    at = next(i for i, r in enumerate(archive["readings"]) if r["kind"] == "cam")
    true = archive["readings"][at]["value"]
    archive["readings"][at]["value"] = 55.5
    job = send(empty, archive)[1]["id"]
    found = empty.visitor().send("GET", f"/api/jobs/{job}/readings")["readings"][at]
    assert found["value"] == pytest.approx(true, abs=1e-6)


def forged_whole(exported: Json) -> Json:
    """Forged with care: a chain and every hash made anew, sealed and signed with a key of the
    forger's own.
    """
    pem = key_file("forger").read_text()
    archive = copy.deepcopy(exported)
    archive["readings"][0]["as_typed"] = "forged"
    found = Archive.model_validate(archive)
    assert found.seal is not None
    said = found.seal.statement.model_dump() | {
        "content_sha256": digest(found.content()),
        "depot": "Saltmere Island Fleet Depot",
    }
    sealed = found.model_copy(update={"seal": sign_statement(pem, Statement.model_validate(said))})
    return json.loads(wrap(sealed, pem).model_dump_json())


def test_a_forger_with_a_key_of_his_own_is_a_stranger(exported: Json, empty: House) -> None:
    forged = forged_whole(exported)
    assert verify_archive(Archive.model_validate(forged)).holds, (
        "it holds together: only the key tells"
    )
    status, answer = send(empty, forged)
    assert status == 200
    assert (
        "a key that nobody here trusts"
        in empty.visitor().send("GET", f"/api/jobs/{answer['id']}")["import_note"]
    )


def test_another_depot_believes_a_key_once_a_lead_entered_it(
    exported: Json, cluster: Cluster, box: Server
) -> None:
    other = build(
        cluster.new_database(),
        box,
        has_unit=False,
        signing_key_file=str(key_file("skerry")),
        depot="Outer Skerry Depot",
    )
    lead = other.visitor("sunna")
    key = public_key_of(key_file("saltmere").read_text())
    status, error = refusal(
        other.visitor(), "POST", "/api/keys", {"public_key": key, "depot": "Saltmere"}
    )
    assert (status, error["message"]) == (403, "Only a lead technician may do this.")
    keys = lead.send("POST", "/api/keys", {"public_key": key.upper(), "depot": "Saltmere"})
    assert [(k["depot"], k["public_key"]) for k in keys["trusted"]] == [("Saltmere", key)]
    assert keys["own_key"] == public_key_of(key_file("skerry").read_text())
    job = send(other, exported)[1]["id"]
    assert lead.send("GET", f"/api/jobs/{job}")["signed_at_depot"] == "Saltmere"
    line = lead.send("GET", "/api/yard")["jobs"][0]
    assert (line["stage"], line["signed_at_depot"]) == ("done", "Saltmere")
    # Passed on: the seal is still the first depot's, the file as a whole this one's.
    again = archive_of(lead, job)
    assert again["seal"] == exported["seal"]
    assert again["wrapper"]["public_key"] == keys["own_key"]
    lead.send("DELETE", f"/api/keys/{key}")
    assert lead.send("GET", "/api/keys")["trusted"] == []
    assert refusal(lead, "DELETE", f"/api/keys/{key}")[0] == 404
    assert (
        refusal(lead, "POST", "/api/keys", {"public_key": keys["own_key"], "depot": "We"})[0] == 409
    )
    other.close()


def _plan(archive: Json) -> None:
    archive["job"]["plan"] = {"steps": "x"}


def _derived(archive: Json) -> None:
    archive["job"]["plan"]["steps"][0]["about"] = "changed"


def _sum(archive: Json) -> None:
    archive["job"]["plan"]["low_minutes"] += 1


def _number(archive: Json) -> None:
    archive["job"]["number"] = "SI-1\r\nX: y"


def _infinite(archive: Json) -> None:
    archive["readings"][0]["value"] = 1e300


def _nul(archive: Json) -> None:
    archive["job"]["intake"]["complaint"] = "a\0b"


def _part(archive: Json) -> None:
    archive["readings"][0]["part"] = "cam_z"


def _component(archive: Json) -> None:
    archive["job"]["scope"] = ["sail"]


def _photo(archive: Json) -> None:
    archive["photos"] = [
        {
            "reading_id": 1,
            "caption": "",
            "width": 1,
            "height": 1,
            "content": base64.b64encode(b"<script>").decode(),
            "taken_by": "x",
            "taken_at": "2026-01-01T00:00:00Z",
        }
    ]


def _book(archive: Json) -> None:
    archive["book"] = archive["book"].replace("cam_deviation_deg:", "cam_deviation_deg: -1 #")


def _capture(archive: Json) -> None:
    archive["captures"][0]["content"] = base64.b64encode(b"PAR1 not").decode()


def _deep(archive: Json) -> None:
    nest: Any = 1
    for _ in range(60):
        nest = [nest]
    archive["job"]["intake"]["deep"] = nest


HOSTILE = [
    _plan,
    _derived,
    _sum,
    _number,
    _infinite,
    _nul,
    _part,
    _component,
    _photo,
    _book,
    _capture,
    _deep,
]


@pytest.mark.parametrize("change", HOSTILE)
def test_what_cannot_be_read_is_refused_and_leaves_nothing(
    exported: Json, empty: House, change: Callable[[Json], None]
) -> None:
    archive = copy.deepcopy(exported)
    change(archive)
    before = rows(empty)
    status, error = send(empty, archive)
    assert status == 422, error
    assert error["message"]
    assert rows(empty) == before
    assert empty.visitor().send("GET", "/api/yard")["jobs"] == []


@pytest.mark.parametrize(
    "content", [b"", b"{}", b"not json", b"[" * 20_000, b'{"format": "flaneur-job/9"}']
)
def test_what_is_no_job_file_is_refused_whole(empty: House, content: bytes) -> None:
    status, error = bring_in(empty.visitor(), content)
    assert status == 422
    assert error["message"] == "This is not a job file."
    assert rows(empty)["Job"] == 0


def test_a_changed_engine_book_serves_its_job_only_until_a_lead_adopts_it(
    exported: Json, house: House
) -> None:
    archive = copy.deepcopy(exported)
    archive["job"]["number"] = "XX-0001"
    archive["book"] = archive["book"].replace("revision: ", "revision: 9", 1)
    known = house.visitor().send("GET", "/api/books")["books"][0]
    job = send(house, archive)[1]["id"]
    lead = house.visitor("sunna")
    books = lead.send("GET", "/api/books")["books"]
    waiting = next(b for b in books if not b["is_adopted"])
    assert waiting["came_by"] == "Ivo Tarnholt"
    assert lead.send("GET", f"/api/jobs/{job}")["book_id"] == waiting["id"]
    new = lead.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]
    assert lead.send("GET", f"/api/jobs/{new}")["book_id"] == known["id"], "never current by import"
    assert refusal(house.visitor(), "POST", f"/api/books/{waiting['id']}/adopt", {})[0] == 403
    adopted = lead.send("POST", f"/api/books/{waiting['id']}/adopt", {})["books"]
    assert all(b["is_adopted"] for b in adopted)


def test_a_unit_that_came_with_a_file_waits_for_its_book(exported: Json, empty: House) -> None:
    job = send(empty, exported)[1]["id"]
    visitor = empty.visitor()
    unit = visitor.send("GET", f"/api/jobs/{job}")["unit"]["id"]
    status, error = refusal(visitor, "POST", "/api/jobs", {"unit_id": unit})
    assert status == 422
    assert "Nobody has adopted" in error["message"]
    book = visitor.send("GET", f"/api/jobs/{job}")["book_id"]
    empty.visitor("sunna").send("POST", f"/api/books/{book}/adopt", {})
    assert visitor.send("POST", "/api/jobs", {"unit_id": unit})["id"]


def test_a_tag_that_is_another_unit_here_is_refused(exported: Json, house: House) -> None:
    archive = copy.deepcopy(exported)
    archive["job"]["number"], archive["unit"]["name"] = "XX-0002", "Pilot boat Skua"
    status, error = send(house, archive)
    assert (status, error["message"]) == (422, "Another unit has this tag here.")


def test_an_open_job_moves_with_all_it_holds(
    house: House, visitor: Visitor, job: int, empty: House
) -> None:
    capture(visitor, job)
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_b", "24 mm"))
    work_bench(visitor, job, ["water_pump"])
    stranger = empty.visitor()
    moved = bring_in(stranger, json.dumps(archive_of(visitor, job)).encode())[1]["id"]
    assert (
        stranger.send("GET", f"/api/jobs/{moved}/readings")["readings"][-1]["as_typed"] == "24 mm"
    )
    assert stranger.send("GET", f"/api/jobs/{moved}")["stage"] == "proof"
    assert "it was not signed" in stranger.send("GET", f"/api/jobs/{moved}")["import_note"]
    taken = stranger.send("GET", f"/api/jobs/{moved}/readings")["captures"][0]["id"]
    assert len(stranger.send("GET", f"/api/jobs/{moved}/captures/{taken}/traces")["traces"]) == 5
    stranger.change(
        moved, "POST", "/bench/reopen", {"step": "op:battery_off", "reason": "done here anew"}
    )


def test_a_file_of_the_first_format_still_comes_in(exported: Json, empty: House) -> None:
    old = {k: v for k, v in copy.deepcopy(exported).items() if k not in ("seal", "wrapper")}
    old["format"] = "flaneur-job/1"
    for entry in old["journal"]:
        del entry["previous"], entry["hash"]
    for kept in old["captures"]:
        del kept["sha256"], kept["struck"]
    status, answer = send(empty, old)
    assert status == 200, answer
    assert not empty.visitor().send("GET", f"/api/jobs/{answer['id']}")["is_signed"]


def test_a_report_shows_and_runs_nothing(signed_house: House) -> None:
    visitor, signed = signed_house.visitor(), 1
    answer = visitor.client.get(f"/api/jobs/{signed}/report.html")
    policy = answer.headers["Content-Security-Policy"]
    assert "sandbox" in policy
    assert "form-action 'none'" in policy
    page, seal = split_seal(answer.text)
    assert seal is not None
    assert seal.holds
    chain = chain_in(Archive.model_validate(archive_of(visitor, signed)).journal)
    assert chain[-1].hash in page, "the journal's head is printed in the report"


def test_without_a_key_nothing_is_signed_and_it_is_said(database_url: str, box: Server) -> None:
    house = build(database_url, box, signing_key_file="")
    house.hide(Faults())
    visitor = house.visitor("sunna")
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/handover/sign", {"version": 2, "password": PASSWORD}
    )
    assert (status, error["message"]) == (409, "This depot has no signing key.")
    assert "script/flaneur key new" in error["advice"]
    assert visitor.send("GET", "/api/keys")["own_key"] is None
    house.close()


def repacked(content: bytes, change: dict[str, bytes] | None = None, without: str = "") -> bytes:
    """A zip with members changed or added, or one left out."""
    with zipfile.ZipFile(io.BytesIO(content)) as file:
        members = {name: file.read(name) for name in file.namelist()}
    members = {k: v for k, v in {**members, **(change or {})}.items() if k != without}
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        for name, data in members.items():
            file.writestr(name, data)
    return out.getvalue()


def test_the_zip_makes_the_same_signed_job(signed_house: House, house: House) -> None:
    out = signed_house.visitor().client.get("/api/jobs/1/archive.zip").data
    with zipfile.ZipFile(io.BytesIO(out)) as file:
        names = set(file.namelist())
        assert from_parquet(file.read("captures/C1.parquet")).samples > 0
        assert file.read("report.pdf").startswith(b"%PDF")
        rows = json.loads(file.read("job.json"))
    assert {"job.json", "report.html", "photos/P1.webp"} <= names
    assert rows["captures"][0]["content"] == rows["report"]["pdf"] == ""
    status, said = bring_in(house.visitor("sunna"), out)
    assert status == 200, said
    assert "signed. Brought in" in said["words"]
    again = house.visitor().client.get(f"/api/jobs/{said['id']}/archive.zip").data
    with zipfile.ZipFile(io.BytesIO(again)) as file:
        assert set(file.namelist()) == names


@pytest.mark.parametrize(
    ("change", "without", "read"),
    [
        ({"notes.txt": b"hello"}, "", "notes.txt, which no row refers to"),
        ({}, "captures/C1.parquet", "without captures/C1.parquet"),
        ({}, "job.json", "without job.json"),
        ({"job.json": b"[]"}, "", "list"),
        ({"job.json": b"{"}, "", "JSONDecodeError"),
    ],
)
def test_a_zip_that_is_no_job_file_is_refused(
    signed_house: House, change: dict[str, bytes], without: str, read: str
) -> None:
    out = signed_house.visitor().client.get("/api/jobs/1/archive.zip").data
    status, error = bring_in(signed_house.visitor("sunna"), repacked(out, change, without))
    assert status == 422
    assert read in error["read"]
    spoilt = bytearray(out)
    spoilt[6] |= 1  # says of itself that it stands under a password
    spoilt[out.index(b"PK\x01\x02") + 8] |= 1
    for other in (out[: len(out) // 2], bytes(spoilt)):
        assert bring_in(signed_house.visitor("sunna"), other)[0] == 422


def test_a_changed_member_of_a_zip_comes_in_unsigned(signed_house: House, house: House) -> None:
    out = signed_house.visitor().client.get("/api/jobs/1/archive.zip").data
    with zipfile.ZipFile(io.BytesIO(out)) as file:
        page = file.read("report.html")
    other = repacked(out, {"report.html": page.replace(b"Pilot boat", b"Sailing boat")})
    status, said = bring_in(house.visitor("sunna"), other)
    assert status == 200
    assert "brought in, open" in said["words"]
