"""How long samples are kept: they go past the shop's term and not before, and seals hold."""

import json
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError
from sqlmodel import Session, select
from tests.api.conftest import House, archive_of, bend, bring_in, build, refusal
from tests.support.cluster import Cluster

from flaneur.cli import main
from flaneur.core.errors import CaptureError
from flaneur.formats.archive import Archive, verify_archive
from flaneur.simulation.server import Server
from flaneur.store.blocks import load_capture, look
from flaneur.store.tables import CaptureRow, SamplesLetGo
from flaneur.worker import keep_to_terms

SINCE = "UPDATE job SET signed_at = signed_at {0} interval '3 years'"


@pytest.fixture
def empty(cluster: Cluster, box: Server) -> Iterator[House]:
    found = build(cluster.new_database(), box, has_unit=False)
    yield found
    found.close()


def term(house: House, months: int | None) -> dict[str, int]:
    return house.visitor("sunna").send("PUT", "/api/shop/keeping", {"months": months})


def test_samples_of_a_signed_job_go_after_the_shops_term(
    signed_house: House, empty: House, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    house = signed_house
    before = term(house, 24)
    assert before["captures"] > 0 < before["capture_bytes"]
    assert (before["due"], before["let_go"]) == (0, 0)
    keep_to_terms(house.engine)
    with Session(house.engine) as session:
        row = session.exec(select(CaptureRow)).first()
        assert row is not None
        assert load_capture(session, row).samples == row.samples
        shown = look(session, row, 0, row.samples, 40)

    bend(house, "job", SINCE.format("-"))
    assert term(house, 60)["due"] == 0
    due = term(house, 24)
    assert due["due"] == before["captures"]
    assert 0.9 * before["capture_bytes"] < due["due_bytes"] < before["capture_bytes"]
    keep_to_terms(house.engine)
    bend(house, "job", SINCE.format("+"))
    after = house.visitor().send("GET", "/api/shop/keeping")
    assert (after["let_go"], after["captures"], after["due"]) == (before["captures"], 0, 0)
    assert after["capture_bytes"] == before["capture_bytes"] - due["due_bytes"]

    # The whole of it still shows; what needs samples says that they are gone.
    with Session(house.engine) as session:
        kept = look(session, row, 0, row.samples, 40)
        for name, low in shown.low.items():
            assert (kept.low[name].min(), kept.high[name].max()) == (
                low.min(),
                shown.high[name].max(),
            )
        with pytest.raises(CaptureError, match="no longer kept"):
            load_capture(session, row)
    path = f"/api/jobs/{row.job_id}/captures/{row.id}/file.parquet"
    assert refusal(house.visitor(), "GET", path)[1]["message"].endswith("no longer kept.")

    # Seals hold, and say what could not be compared; the job's file comes in as the same job.
    archive = archive_of(house.visitor(), row.job_id)
    assert {c["content"] for c in archive["captures"]} == {""}
    file = tmp_path / "job.json"
    file.write_text(json.dumps(archive))
    assert main(["verify", str(file), "--database", house.app.config["SETTINGS"].database_url]) == 0
    said = capsys.readouterr().out
    assert said.count("open") == 2 * before["captures"]
    assert "BROKEN" not in said
    status, answer = bring_in(empty.visitor(), file.read_bytes())
    assert status == 200, answer
    assert archive_of(empty.visitor(), answer["id"]) == archive
    with Session(empty.engine) as session:
        there = session.exec(select(CaptureRow)).first()
        assert there is not None
        with pytest.raises(CaptureError, match="no longer kept"):
            look(session, there, 0, there.samples, 40)


def test_without_samples_nothing_is_believed_that_is_not_sealed(
    signed_house: House, empty: House
) -> None:
    archive = archive_of(signed_house.visitor(), 1)
    archive["captures"][0]["content"] = ""  # taken out by somebody
    status, answer = bring_in(empty.visitor(), json.dumps(archive).encode())
    assert (status, answer["message"]) == (422, "A capture in the job file has no samples.")
    with Session(empty.engine) as session:
        assert session.exec(select(CaptureRow)).first() is None


@pytest.mark.parametrize(
    "statement",
    [
        "INSERT INTO samples_let_go SELECT id, now() FROM capture",
        "DELETE FROM capture_block",
        "DELETE FROM capture_block WHERE level < 2",
    ],
)
def test_the_database_itself_keeps_samples_within_their_term(
    signed_house: House, statement: str
) -> None:
    term(signed_house, 12)
    with signed_house.engine.connect() as connection, pytest.raises(DBAPIError, match="kept"):
        connection.execute(text(statement))


def test_only_a_lead_sets_a_term_and_none_under_a_year(signed_house: House) -> None:
    ask = "PUT", "/api/shop/keeping"
    assert refusal(signed_house.visitor(), *ask, {"months": 24})[0] == 403
    assert refusal(signed_house.visitor("sunna"), *ask, {"months": 6})[0] == 422
    assert term(signed_house, None)["months"] is None
    with Session(signed_house.engine) as session:
        assert session.exec(select(SamplesLetGo)).first() is None


def test_a_file_without_samples_says_that_they_were_not_compared(signed_house: House) -> None:
    archive = Archive.model_validate(archive_of(signed_house.visitor(), 1))
    archive.captures[0].content = ""
    found = verify_archive(archive).findings
    assert [f.is_compared for f in found if f.what == "samples of capture 1"] == [False]
    assert [f.holds for f in found if f.what == "file"] == [False]
