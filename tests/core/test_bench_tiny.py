"""Every subject of script/bench that needs no running product runs: as little of each as shows that
none is broken. Figures mean nothing here.
"""

import importlib
import json
import subprocess

import pytest
from bench.run import SUBJECTS
from tests.support.cluster import ROOT

WITH_A_SERVER = ("turning", "pages", "api", "load")
WHOLE_ELSEWHERE = ("geometry",)
# Each with a cluster of its own, which ends with its process.
ON_A_DATABASE = ("viewer", "records", "fleet")
REST = [s for s in SUBJECTS if s not in (*WITH_A_SERVER, *WHOLE_ELSEWHERE, *ON_A_DATABASE)]


@pytest.mark.parametrize("subject", REST)
def test_a_subject_runs(subject: str) -> None:
    figures = list(importlib.import_module(f"bench.{subject}").run(is_tiny=True))
    assert {f.subject for f in figures} == {subject}
    if subject == "clearance":
        assert all(f.holds for f in figures if "against" not in f.name), figures


@pytest.mark.parametrize("subject", ON_A_DATABASE)
def test_a_subject_on_a_database_runs(subject: str) -> None:
    command = [ROOT / "script" / "bench", subject, "--tiny", "--json"]
    done = subprocess.run(command, capture_output=True, text=True, timeout=240)
    figures = [json.loads(line) for line in done.stdout.splitlines()]
    assert {f["subject"] for f in figures} == {subject}, done.stderr
    if subject == "records":
        assert all(f["holds"] for f in figures if "against" not in f["name"]), figures
