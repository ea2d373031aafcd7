"""How soon a screen is there in a browser, and how much of Flaneur comes for it."""

import gzip
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from demo.browser import WHOLE, chromium
from demo.depot import PASSWORD
from selenium.webdriver import Chrome, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import WebDriverWait
from tests.support.cluster import ROOT

from bench.figure import Figure, at_most, machine_factor

FIRST_MS, STAGE_MS = 1500.0, 150.0
FIRST_KB, STAGE_KB = 150.0, 60.0
STAGES = ("intake", "readings", "verdict", "plan", "bench", "proof", "handover")
ASSETS = ROOT / "web" / "dist" / "assets"

# Milliseconds from a press on a stage until its head stands and nothing is being fetched for it.
GO = """
const [stage, done] = arguments;
const link = document.querySelector(`nav a[href$="/${stage}"]`);
const before = document.querySelector("main h1");
const begun = performance.now();
link.click();
const look = () => {
  const head = document.querySelector("main h1");
  const waits = document.querySelector("main").innerText.includes("Fetching");
  if (head && (head !== before || !before.isConnected) && !waits)
    return requestAnimationFrame(() => done(performance.now() - begun));
  if (performance.now() - begun > 20000) return done(20000);
  setTimeout(look, 4);
};
look();
"""


def measure(address: str, rounds: int) -> Iterator[Figure]:
    """Figures from a running product; bars in ms × the machine's factor."""
    browser = chromium(binary=WHOLE)
    try:
        yield from _measure(browser, address, rounds)
    finally:
        browser.quit()


def _measure(browser: Chrome, address: str, rounds: int) -> Iterator[Figure]:
    wait = WebDriverWait(browser, 60, 0.02)
    browser.get(address)
    wait.until(lambda b: b.find_elements(By.CSS_SELECTOR, "input[type=password]"))
    browser.find_element(By.CSS_SELECTOR, "input[autocomplete=username]").send_keys("ivo")
    browser.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(PASSWORD, Keys.ENTER)
    wait.until(lambda b: b.find_elements(By.CSS_SELECTOR, "a[href^='/jobs/']"))
    factors, first = [machine_factor()], list[float]()
    browser.execute_cdp_cmd("Network.enable", {})
    browser.execute_cdp_cmd("Network.setCacheDisabled", {"cacheDisabled": True})
    for _ in range(rounds):
        begun = time.perf_counter()
        browser.get(address)
        wait.until(lambda b: b.find_elements(By.CSS_SELECTOR, "a[href^='/jobs/']"))
        first.append(1000 * (time.perf_counter() - begun))
        factors.append(machine_factor())
    at_first = _scripts(browser)
    browser.execute_cdp_cmd("Network.setCacheDisabled", {"cacheDisabled": False})
    job = browser.find_element(By.CSS_SELECTOR, "a[href^='/jobs/'][href$='/proof']")
    browser.get((job.get_attribute("href") or "").replace("/proof", "/intake"))
    wait.until(lambda b: b.find_elements(By.CSS_SELECTOR, "main h1"))
    more, middle = dict[str, float](), dict[str, float]()
    for stage in STAGES:
        times = list[float]()
        for turn in range(rounds + 1):
            browser.execute_async_script(GO, "intake" if stage != "intake" else "plan")
            known = _scripts(browser)
            took = float(browser.execute_async_script(GO, stage))
            if turn:
                times.append(took)
            else:
                more[stage] = _kilobytes(_scripts(browser) - known)
        middle[stage] = float(np.median(times))
        factors.append(machine_factor())
    for stage in STAGES:
        print(f"  {middle[stage]:7.1f} ms, {more[stage]:5.1f} kB  {stage}", flush=True)
    factor = float(np.median(factors))
    name = "first page usable, nothing kept, ms"
    yield at_most("pages", name, float(np.median(first)), FIRST_MS * factor)
    name = "slowest stage, from another, warm, ms"
    yield at_most("pages", name, max(middle.values()), STAGE_MS * factor)
    yield at_most("pages", "JavaScript of the first page, kB", _kilobytes(at_first), FIRST_KB)
    yield at_most("pages", "most JavaScript a stage adds, kB", max(more.values()), STAGE_KB)


def _scripts(browser: Chrome) -> set[str]:
    """Names of the scripts that have come."""
    script = "return performance.getEntriesByType('resource').map((r) => r.name)"
    return {Path(n).name for n in browser.execute_script(script) if n.endswith(".js")}


def _kilobytes(names: set[str]) -> float:
    """What they weigh as they are sent."""
    return sum(len(gzip.compress((ASSETS / n).read_bytes(), 9)) for n in names) / 1000
