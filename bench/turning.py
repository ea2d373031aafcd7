"""Turning the V8 by hand in a real browser: frames drawn a second, from the browser's own
performance log.
"""

import json
import math
import time
from collections.abc import Iterator

from demo.browser import chromium
from demo.depot import PASSWORD
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.wait import WebDriverWait

from bench.figure import Figure, at_least
from bench.house import served

SECONDS = 6.0
V8 = "Brindle Fennel"


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with served() as found:
        yield from measure(found.address, 0.5 if is_tiny else SECONDS)


def measure(address: str, seconds: float) -> Iterator[Figure]:
    """Turn for some seconds in front of a running product."""
    browser = chromium(
        traces="devtools.timeline,disabled-by-default-devtools.timeline.frame,blink.user_timing"
    )
    try:
        yield from _turn(browser, address, seconds)
    finally:
        browser.quit()


def _open(browser: Chrome, address: str) -> None:
    browser.get(address)
    wait = WebDriverWait(browser, 30)
    wait.until(lambda b: b.find_elements(By.CSS_SELECTOR, "input[type=password]"))
    browser.find_element(By.CSS_SELECTOR, "input[autocomplete=username]").send_keys("ivo")
    browser.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(PASSWORD, Keys.ENTER)
    wait.until(lambda b: "Units" in b.page_source)
    browser.get(f"{address}/books")
    wait.until(lambda b: V8 in b.page_source)
    link = next(
        a for a in browser.find_elements(By.CSS_SELECTOR, "a[href*='/books/']") if V8 in a.text
    )
    browser.get(link.get_attribute("href") or "")
    wait.until(lambda b: b.find_elements(By.CSS_SELECTOR, "[data-chain]"))


def _turn(browser: Chrome, address: str, seconds: float) -> Iterator[Figure]:
    _open(browser, address)
    strokes = browser.execute_script(
        "const found = document.querySelectorAll('[data-what=even],[data-what=odd]');"
        "return [...found].map(p => p.getAttribute('d'))"
    )
    links = sum(stroke.count("M") for stroke in strokes)
    box = browser.execute_script(
        "const svg = document.querySelector('[data-chain]').closest('svg');"
        "const r = svg.getBoundingClientRect(); return [r.x, r.y, r.width, r.height]"
    )
    hub = browser.execute_script(
        "const r=document.querySelector('circle[stroke-dasharray=\"2 "
        "4\"]').getBoundingClientRect();return [r.x+r.width/2,r.y+r.height/2]"
    )
    browser.execute_script(
        "window.moves=0;new "
        "MutationObserver(()=>window.moves++).observe(document.querySelector('[data-what=even]'),{attributes:true})"
    )
    browser.get_log("performance")
    radius = min(140.0, box[3] / 4)

    def mouse(kind: str, angle: float) -> None:
        x, y = hub[0] + radius * math.cos(angle), hub[1] + radius * math.sin(angle)
        browser.execute_cdp_cmd(
            "Input.dispatchMouseEvent",
            {"type": kind, "x": x, "y": y, "button": "left", "buttons": 1, "clickCount": 1},
        )

    mouse("mousePressed", -1.2)
    started, angle = time.monotonic(), -1.2
    while time.monotonic() - started < seconds:
        angle += 0.02
        mouse("mouseMoved", angle)
    spent = time.monotonic() - started
    mouse("mouseReleased", angle)
    turned = float(
        browser.find_element(By.CSS_SELECTOR, "output[aria-label='Crank angle']").text.split("°")[0]
    )
    moves = browser.execute_script("return window.moves")
    frames = _frames_drawn(browser)
    assert turned != 45.0, "the crank did not turn"
    yield at_least("turning", f"{V8}: links drawn", float(links), 300)
    yield at_least(
        "turning", f"{V8}: frames a second while dragged, performance log", frames / spent, 30
    )
    yield at_least("turning", f"{V8}: chain moved, times a second", moves / spent, 30)


def _frames_drawn(browser: Chrome) -> int:
    """DrawFrame events of the performance log; it hands its traces over only some time after it is
    asked.
    """
    frames = 0
    for _ in range(20):
        entries = [
            json.loads(entry["message"])["message"] for entry in browser.get_log("performance")
        ]
        found = sum(entry.get("params", {}).get("name") == "DrawFrame" for entry in entries)
        frames += found
        if frames and not found:
            break
        time.sleep(0.3)
    return frames
