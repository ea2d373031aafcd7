"""Every subject of script/bench that needs no running product runs: as little of each as shows that
none is broken. Figures mean nothing here.
"""

import json
import subprocess

from bench.run import SUBJECTS
from tests.support.cluster import ROOT

WITH_A_SERVER = ("turning", "pages", "api", "load")


def test_every_subject_that_needs_no_server_runs() -> None:
    subjects = [
        s for s in SUBJECTS if s not in (*WITH_A_SERVER, "geometry")
    ]  # geometry runs whole elsewhere
    command = [ROOT / "script" / "bench", *subjects, "--tiny", "--json"]
    done = subprocess.run(command, capture_output=True, text=True, timeout=300)
    figures = [json.loads(line) for line in done.stdout.splitlines()]
    assert {f["subject"] for f in figures} == set(subjects), done.stderr
    assert all(
        f["holds"]
        for f in figures
        if f["subject"] in ("records", "clearance") and "against" not in f["name"]
    ), figures
