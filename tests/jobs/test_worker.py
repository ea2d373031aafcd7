"""The worker as a process of its own: it ends when it is told to, whatever it waits for."""

from pathlib import Path

import pytest
from tests.support.cluster import Cluster, free_port
from tests.support.worker import started, until_said

from flaneur.worker import STOPS_WITHIN_S

MARGIN_S = 6.0


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
