"""A backup of a running server, and the same server from it in an empty place."""

import os
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from demo.walk import plunger_sheet
from tests.api.conftest import open_house
from tests.support.cluster import ROOT, Cluster, contents, free_port
from tests.support.depot import furnish

from flaneur.simulation.server import Server
from flaneur.store.changes import chain_of
from flaneur.store.database import one_look
from flaneur.store.migrate import migrate

SECRETS = ("signing-key.pem", "secret")


def run(script: str, file: Path, data: Path, port: int) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "FLANEUR_DATA": str(data), "FLANEUR_DB_PORT": str(port)}
    command = [ROOT / "script" / script, file]
    return subprocess.run(command, env=environment, capture_output=True, text=True, timeout=120)


@pytest.fixture(scope="module")
def place() -> Iterator[Path]:
    """Where servers lie that PostgreSQL's own user must get at."""
    folder = ROOT / ".run" / f"backup-{os.getpid()}"
    folder.mkdir(parents=True)
    yield folder
    subprocess.run(["rm", "-rf", str(folder)], check=False)


@pytest.fixture(scope="module")
def running(place: Path, box: Server) -> Iterator[Cluster]:
    """A server at work: a job with a reading, and the secrets of a depot."""
    cluster = Cluster(place / "one" / "db", free_port())
    cluster.run("start", "quick")
    owner = cluster.owner_of(cluster.url("app"))
    migrate(owner)
    furnish(owner)
    owner.dispose()
    for secret in SECRETS:
        (place / "one" / secret).write_text(f"the {secret} of this depot")
    house = open_house(cluster.url("app"), box)
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": 1})["id"])
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_a", "9 mm"))
    house.close()
    yield cluster
    cluster.run("stop", "quick")


@pytest.fixture(scope="module")
def backup(running: Cluster, place: Path) -> Path:
    file = place / "depot.backup"
    done = run("backup", file, place / "one", running.port)
    assert done.returncode == 0, done.stderr
    assert "only the lead" in done.stdout
    return file


def test_everything_comes_back_table_by_table(running: Cluster, backup: Path, place: Path) -> None:
    other = Cluster(place / "two" / "db", free_port())
    done = run("restore", backup, place / "two", other.port)
    assert done.returncode == 0, done.stderr
    other.run("start", "quick")
    try:
        before, after = contents(running.url("setup")), contents(other.url("setup"))
        assert len(before) > 15
        assert before == after
        with one_look(running.url("app")) as here, one_look(other.url("app")) as there:
            assert chain_of(here, 1) == chain_of(there, 1)
        for secret in SECRETS:
            copy = place / "two" / secret
            assert copy.read_text() == (place / "one" / secret).read_text()
            assert copy.stat().st_mode & 0o077 == 0, "only for whoever runs the server"
    finally:
        other.run("stop", "quick")


def test_a_damaged_backup_brings_nothing_in(backup: Path, place: Path) -> None:
    content = bytearray(backup.read_bytes())
    content[len(content) // 2] ^= 0xFF
    damaged = place / "damaged.backup"
    damaged.write_bytes(content)
    done = run("restore", damaged, place / "three", free_port())
    assert done.returncode == 1
    assert "no whole backup" in done.stderr
    assert "Nothing was brought in." in done.stderr
    assert list((place / "three").iterdir()) == []


def test_nothing_is_written_over(running: Cluster, backup: Path, place: Path) -> None:
    before = backup.read_bytes()
    assert "there already" in run("backup", backup, place / "one", running.port).stderr
    assert backup.read_bytes() == before
    done = run("restore", backup, place / "one", running.port)
    assert done.returncode == 1
    assert "nothing was changed" in done.stderr
    assert contents(running.url("setup"))["job"]


def test_a_server_that_is_not_there_leaves_no_file(place: Path) -> None:
    done = run("backup", place / "none.backup", place / "nowhere", free_port())
    assert done.returncode == 1
    assert "no server's data" in done.stderr
    assert not (place / "none.backup").exists()
