"""Every subject of script/bench runs: as little of each as shows that none is broken. Figures mean
nothing here.
"""

import json
import subprocess

from bench import api, pages, turning
from bench.house import Served
from bench.run import SUBJECTS
from tests.browser.conftest import Product
from tests.support.cluster import ROOT

WITH_A_SERVER = ("turning", "pages", "api")


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


def test_turning_runs(product: Product) -> None:
    assert {f.subject for f in turning.measure(product.address, 0.5)} == {"turning"}


def test_pages_run(product: Product) -> None:
    assert {f.subject for f in pages.measure(product.address, 1)} == {"pages"}


def test_no_made_up_request_breaks_the_server_or_surprises_the_document(product: Product) -> None:
    figures = list(api.measure(Served(product.address, product.data), is_tiny=True))
    assert all(f.holds for f in figures), figures
