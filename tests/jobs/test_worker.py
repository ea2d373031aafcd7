"""The worker as a process of its own: it ends when it is told to, whatever it waits for."""

import os
import subprocess
import sys
import time
from pathlib import Path

import pytest
from tests.support.cluster import ROOT, Cluster, free_port

from flaneur.worker import STOPS_WITHIN_S

MARGIN_S = 6.0


def started(url: str, log: Path) -> subprocess.Popen[bytes]:
    environment = {**os.environ, "FLANEUR_DATABASE_URL": url, "PYTHONPATH": str(ROOT / "src")}
    with log.open("wb") as out:
        return subprocess.Popen(
            [sys.executable, "-m", "flaneur.worker"], env=environment, stdout=out, stderr=out
        )


def until_said(log: Path, words: str) -> None:
    end = time.monotonic() + 30
    while words not in log.read_text(encoding="utf-8", errors="replace"):
        assert time.monotonic() < end, log.read_text(encoding="utf-8", errors="replace")
        time.sleep(0.05)


@pytest.mark.parametrize("case", ["with a database", "without one", "when it is gone"])
def test_it_ends_in_bounded_time(cluster: Cluster, tmp_path: Path, case: str) -> None:
    nowhere = f"postgresql+psycopg://nobody@127.0.0.1:{free_port()}/none"
    url = nowhere if case == "without one" else cluster.new_database()
    log = tmp_path / "worker.log"
    worker = started(url, log)
    try:
        until_said(log, "error connecting" if case == "without one" else "Starting worker")
        if case == "when it is gone":
            cluster.drop(url)
            until_said(log, "does not exist")
        worker.terminate()
        worker.wait(timeout=STOPS_WITHIN_S + MARGIN_S)
    finally:
        worker.kill()
        worker.wait()
