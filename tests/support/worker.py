"""Workers as processes of their own."""

import os
import subprocess
import sys
import time
from pathlib import Path

from tests.support.cluster import ROOT


def started(url: str, log: Path, **more: str) -> subprocess.Popen[bytes]:
    """A worker on a database, with what it says in a file."""
    environment = {
        **os.environ,
        "FLANEUR_DATABASE_URL": url,
        "PYTHONPATH": str(ROOT / "src"),
        **more,
    }
    with log.open("wb") as out:
        return subprocess.Popen(
            [sys.executable, "-m", "flaneur.worker"], env=environment, stdout=out, stderr=out
        )


def until_said(log: Path, words: str) -> None:
    """Wait until it says so."""
    end = time.monotonic() + 30
    while words not in log.read_text(encoding="utf-8", errors="replace"):
        assert time.monotonic() < end, log.read_text(encoding="utf-8", errors="replace")
        time.sleep(0.05)
