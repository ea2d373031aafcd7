"""How much a step takes of whoever works it: presses until it is closed, and how long the page
takes to answer each.
"""

from collections.abc import Iterator
from statistics import median

import numpy as np
from tests.browser.at_bench import press_right

from bench.figure import Figure, at_least, at_most, for_information
from bench.house import Served
from bench.once import Tablet, own_job
from bench.tablets import Line
from flaneur.core.plan.steps import PlanStep

SCOPE = ("chain_a_part", "phaser_a_part")
PRESSES, ANSWERED_MS = 2, 100.0
# From the press to the next picture, as the browser itself measures it.
WATCH = """
window.pressed = [];
new PerformanceObserver((list) => {
  for (const e of list.getEntries()) if (e.interactionId) window.pressed.push(e.duration);
}).observe({type: 'event', durationThreshold: 16, buffered: true});
"""


def measure(product: Served, factor: float, most: int = 1000) -> Iterator[Figure]:
    """Figures from one walk through the V6's steps, at most so many."""
    line, lead = Line(product.address, "ivo"), Line(product.address, "sunna")
    job = own_job(line, lead, SCOPE)
    steps = line.send("GET", f"/api/jobs/{job}/bench")["steps"][:most]
    tablet, took = Tablet(product.address, job), list[int]()
    tablet.driver.execute_script(WATCH)
    for step in map(PlanStep.model_validate, steps):
        tablet.person.until(lambda _, t=step.title: tablet.title() == t)
        took.append(press_right(tablet.person, step))
        tablet.person.until(lambda _, t=step.title: tablet.title() != t)
    slow = [float(ms) for ms in tablet.driver.execute_script("return window.pressed")]
    tablet.close()
    line.close()
    lead.close()
    yield at_least("bench", "steps closed by hand", len(took), len(steps))
    yield at_most("bench", "presses and figures a step takes, median", median(took), PRESSES)
    p95 = float(np.percentile(slow or [16.0], 95))
    yield at_most("bench", "page answers a press, ms, p95", p95, ANSWERED_MS * factor)
    worst = max(slow, default=16.0)
    yield for_information("bench", "page answers a press, ms, slowest", worst)
