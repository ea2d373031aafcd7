"""script/database: what it says is so."""

import os
import signal
import socket
import subprocess
from collections.abc import Iterator

import pytest
from sqlalchemy import create_engine, text
from tests.support.cluster import ROOT, Cluster, private_cluster


@pytest.fixture(scope="module")
def own() -> Iterator[Cluster]:
    with private_cluster("kills") as found:
        yield found


def answers(cluster: Cluster) -> int:
    engine = create_engine(cluster.url("setup"))
    try:
        with engine.connect() as connection:
            return int(connection.execute(text("SELECT 1")).scalar_one())
    finally:
        engine.dispose()


def postmaster(cluster: Cluster) -> int:
    return int((cluster.folder / "data" / "postmaster.pid").read_text().splitlines()[0])


@pytest.mark.parametrize("attempt", range(4))
def test_started_means_that_it_answers_even_right_after_a_kill(own: Cluster, attempt: int) -> None:
    del attempt
    os.kill(postmaster(own), signal.SIGKILL)
    own.run("start", "quick")
    assert answers(own) == 1


def test_started_twice_is_started(own: Cluster) -> None:
    before = postmaster(own)
    own.run("start", "quick")
    assert (postmaster(own), answers(own)) == (before, 1)


def test_a_port_somebody_else_has_is_a_failure_with_words(own: Cluster) -> None:
    own.run("stop", "quick")
    with socket.socket() as other:
        other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)  # closing lines are no owners
        other.bind(("127.0.0.1", own.port))
        other.listen()
        done = subprocess.run(
            [ROOT / "script" / "database", "start", own.folder, str(own.port), "quick"],
            env={**os.environ, "FLANEUR_DB_PATIENCE": "3"},
            capture_output=True,
            text=True,
            timeout=60,
        )
    own.run("start", "quick")
    assert done.returncode == 1
    assert f"does not answer on port {own.port}" in done.stderr
