"""What script/bench prints can be relied on: the fast subject runs here, and figures say truly
whether they hold.
"""

import json
import subprocess

import numpy as np
from bench.figure import at_least, at_most
from bench.geometry import textbook_length
from bench.readings import bound_deg, draw_faults
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.simulation.motion import Conditions


def test_a_figure_holds_only_within_its_bar() -> None:
    assert at_most("s", "n", 1.0, 1.0).holds
    assert not at_most("s", "n", 1.01, 1.0).holds
    assert at_least("s", "n", 0.9, 0.85).holds
    assert not at_least("s", "n", 0.8, 0.85).holds


def test_geometry_is_measured_from_the_command() -> None:
    done = subprocess.run(
        [ROOT / "script" / "bench", "geometry", "--json"],
        capture_output=True,
        text=True,
        timeout=120,
    )
    figures = [json.loads(line) for line in done.stdout.splitlines()]
    assert len(figures) == 11, done.stderr
    for figure in figures:
        assert set(figure) == {"subject", "name", "value", "bar", "holds"}
        # How fast it is depends on what else runs here; what it computes does not.
        assert figure["holds"] is True or ", ms, " in figure["name"], figure
    assert done.returncode == (0 if all(f["holds"] for f in figures) else 1)


def test_the_bound_falls_with_cycles_and_grows_with_noise(book: EngineBook) -> None:
    quiet, loud = Conditions(noise_v=0.05), Conditions(noise_v=0.10)
    idle = np.full(100, 720.0)
    one = bound_deg(book, quiet, "cam_a_in", idle)
    assert abs(bound_deg(book, quiet, "cam_a_in", np.full(400, 720.0)) / one - 0.5) < 1e-9
    assert abs(bound_deg(book, loud, "cam_a_in", idle) / one - 2) < 1e-9
    assert bound_deg(book, Conditions(rate_hz=200_000), "cam_a_in", idle) < one
    assert bound_deg(book, quiet, "cam_a_in", 2 * idle) > one


def test_equal_discs_have_the_plain_length() -> None:
    import math

    assert abs(textbook_length(30, 30, 200) - (400 + 60 * math.pi)) < 1e-12


def test_drawn_faults_belong_to_the_book(book: EngineBook) -> None:
    for seed in range(5):
        draw_faults(np.random.default_rng(seed)).check_against(book)
