"""Every capture read again: as one process reads it, only what is left, and nothing replaced
unseen.
"""

import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from demo.walk import Visitor
from distributed import Client
from sqlmodel import Session, col, select
from tests.api.conftest import House, bend, capture
from tests.support.cluster import ROOT

from flaneur.cli import main
from flaneur.core.faults.model import Faults
from flaneur.core.signals.correlation import correlate
from flaneur.core.signals.rereading import ReadAgain, differences
from flaneur.formats.books import load_book
from flaneur.formats.captures import read_capture, to_parquet
from flaneur.jobs.rereading import kept_lines
from flaneur.jobs.spreading import NoCluster, cluster, spread
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.tables import CaptureRow, Job, JournalEntry, ReadingRow

TANSY = ROOT / "engines" / "ostrey-tansy.yaml"
COUNT = 4
OTHERWISE = "UPDATE reading SET value = value + 0.5 WHERE kind = 'cam'"


@pytest.fixture(scope="module")
def client() -> Iterator[Client]:
    with cluster(workers=2) as found:
        yield found


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Captures of four engines, exported."""
    where, book = tmp_path_factory.mktemp("captures"), load_book(TANSY)
    for number in range(COUNT):
        faults = Faults(elongation_pct={"primary": 0.1 * number})
        rng = np.random.default_rng(number)
        made = synthesise(book, faults, Conditions(seconds=1.2, rate_hz=20_000), rng)
        (where / f"C{number}.parquet").write_bytes(to_parquet(made))
    return where


def reread(
    capsys: pytest.CaptureFixture[str], client: Client, out: Path, *more: str
) -> dict[str, Any]:
    address = str(client.scheduler_info()["address"])
    assert main(["reread", "--scheduler", address, "--out", str(out), "--json", *more]) == 0
    return json.loads(capsys.readouterr().out)


def test_a_folder_is_read_as_one_process_reads_it_and_gone_on_with(
    folder: Path, client: Client, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    out, ask = tmp_path / "read.jsonl", (str(folder), "--engine", str(TANSY))
    assert reread(capsys, client, out, *ask)["read"] == COUNT
    book, known = load_book(TANSY), kept_lines(out)
    for path in folder.iterdir():
        alone = correlate(read_capture(path), book)
        found = known[path.name]
        assert found.late_deg == {c.cam: c.deviation_deg for c in alone.cams}
        assert found.stderr_deg == {c.cam: c.stderr_deg for c in alone.cams}

    assert reread(capsys, client, out, *ask)["read"] == 0
    lines = out.read_text().splitlines(keepends=True)
    out.write_text("".join(lines[:2]) + lines[2][:40])  # the power went while it was written
    assert reread(capsys, client, out, *ask)["read"] == COUNT - 2
    assert kept_lines(out) == known


def test_what_changed_is_listed_and_what_cannot_be_read_says_why(
    folder: Path, client: Client, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    own = tmp_path / "own"
    own.mkdir()
    for path in folder.iterdir():
        (own / path.name).write_bytes(path.read_bytes())
    out, ask = tmp_path / "read.jsonl", (str(own), "--engine", str(TANSY))
    assert reread(capsys, client, out, *ask)["differences"] == []
    (own / "C0.parquet").write_bytes((own / "C3.parquet").read_bytes())
    (own / "C1.parquet").write_bytes(b"no capture")
    found = reread(capsys, client, out, *ask)
    assert found["read"] == 2
    assert {d["capture"] for d in found["differences"]} == {"C0.parquet"}
    assert all(d["now_deg"] > d["before_deg"] + 0.5 for d in found["differences"])
    assert [r["capture"] for r in found["refused"]] == ["C1.parquet"]


def test_captures_of_a_shop_are_replaced_where_their_job_is_open(
    house: House,
    visitor: Visitor,
    job: int,
    client: Client,
    tmp_path: Path,
    capsys: pytest.CaptureFixture[str],
) -> None:
    capture(visitor, job)
    bend(house, "reading", OTHERWISE)
    url = house.app.config["SETTINGS"].database_url
    out, ask = tmp_path / "read.jsonl", ("--database", url)
    found = reread(capsys, client, out, *ask)
    assert found["captures"] == found["read"] == 1
    changed = found["differences"]
    assert changed
    assert all(abs(d["before_deg"] - d["now_deg"] - 0.5) < 1e-9 for d in changed)
    with Session(house.engine) as session:
        assert (
            session.exec(select(ReadingRow).where(col(ReadingRow.struck).is_not(None))).all() == []
        )

    assert reread(capsys, client, out, *ask, "--replace", "--by", "sunna")["read"] == 0
    with Session(house.engine) as session:
        stands = session.exec(select(ReadingRow).where(col(ReadingRow.struck).is_(None))).all()
        assert {r.part: r.value for r in stands} == {d["cam"]: d["now_deg"] for d in changed}
        last = session.exec(select(JournalEntry).order_by(col(JournalEntry.id).desc())).first()
        assert last is not None
        assert (last.kind, last.by.split()[0]) == ("read again", "Sunna")
    assert reread(capsys, client, out, *ask)["differences"] == []


def test_a_signed_job_stands_as_it_was_read(
    signed_house: House, client: Client, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    bend(signed_house, "reading", OTHERWISE)
    url = signed_house.app.config["SETTINGS"].database_url
    out = tmp_path / "read.jsonl"
    ask, replace = ("--database", url), ("--replace", "--by", "sunna")
    assert main(["reread", "--out", str(out), *ask, *replace]) == 1
    assert "Nobody has seen yet what differs." in capsys.readouterr().err
    assert reread(capsys, client, out, *ask)["differences"]
    reread(capsys, client, out, *ask, *replace)
    with Session(signed_house.engine) as session:
        captures = len(session.exec(select(CaptureRow.id)).all())
        job = session.exec(select(Job)).one()
        kinds = session.exec(select(JournalEntry.kind).where(JournalEntry.job_id == job.id)).all()
    assert captures > 0
    assert "read again" not in kinds


def _square(number: int) -> int:
    return number * number


def test_only_a_few_are_under_way_and_who_stops_asking_lets_the_rest_go(client: Client) -> None:
    taken = list[int]()

    def tasks() -> Iterator[int]:
        for number in range(1000):
            taken.append(number)
            yield number

    results = spread(client, _square, tasks())
    first = [next(results) for _ in range(5)]
    assert set(first) <= {n * n for n in range(12)}
    assert len(taken) <= 6 + 5
    results.close()
    assert len(taken) <= 6 + 5
    assert sorted(spread(client, _square, range(20))) == [n * n for n in range(20)]


def test_a_scheduler_that_does_not_answer_is_named(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("flaneur.jobs.spreading.WITHIN_S", 1)
    with pytest.raises(NoCluster, match="does not answer"), cluster("tcp://127.0.0.1:1"):
        pass


def test_a_cam_that_is_read_no_more_or_for_the_first_time_is_a_difference() -> None:
    now = ReadAgain(capture="C1", engine="E", mark="m", late_deg={"a": 1.004, "b": 2.0})
    found = {d.cam: (d.before_deg, d.now_deg) for d in differences({"a": 1.0, "c": 3.0}, now)}
    assert found == {"b": (None, 2.0), "c": (3.0, None)}
