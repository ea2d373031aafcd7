"""Turning the V8 by hand in a real browser: frames drawn a second, from the browser's own
performance log.
"""

import json
import math
import time
from collections.abc import Iterator
from urllib.parse import quote

from demo.browser import WHOLE, chromium
from demo.depot import PASSWORD
from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.wait import WebDriverWait

from bench.figure import Figure, at_least, for_information
from bench.house import served

SECONDS = 6.0
SERVICE_DEG = 45.0
LEAST_SHARE = 0.6
# As many paths as move in the product, each as long, and as many groups, moved on every mouse move.
BARE = """<!doctype html><body style="margin:0"><script>
function begin(strokes, groups, box) {
  const make = (name) => document.createElementNS("http://www.w3.org/2000/svg", name);
  const svg = make("svg");
  Object.assign(svg.style, { position: "absolute", left: box[0] + "px", top: box[1] + "px" });
  svg.setAttribute("width", box[2]); svg.setAttribute("height", box[3]);
  const shifted = (d, by) => d.replace(/-?[0-9.]+/g, (v) => (Number(v) + by).toFixed(2));
  const paths = strokes.map((d) => {
    const path = make("path");
    path.setAttribute("fill", "none"); path.setAttribute("stroke", "black");
    svg.append(path);
    return { path, ways: [0, 1, 2, 3].map((by) => shifted(d, by)) };
  });
  const wheels = Array.from({ length: groups }, () => {
    const g = make("g"), circle = make("circle");
    circle.setAttribute("r", 20); g.append(circle); svg.append(g);
    return g;
  });
  document.body.append(svg);
  let n = 0, asked = false;
  addEventListener("mousemove", () => {
    if (asked) return;
    asked = true;
    requestAnimationFrame(() => {
      asked = false; n += 1;
      for (const { path, ways } of paths) path.setAttribute("d", ways[n % 4]);
      for (const g of wheels) g.setAttribute("transform", "translate(100 100) rotate(" + n + ")");
    });
  });
}
</script>"""
V8 = "Brindle Fennel"


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with served() as found:
        yield from measure(found.address, 0.5 if is_tiny else SECONDS)


def measure(address: str, seconds: float) -> Iterator[Figure]:
    """Turn for some seconds in front of a running product."""
    browser = chromium(
        binary=WHOLE,
        traces="devtools.timeline,disabled-by-default-devtools.timeline.frame,blink.user_timing",
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
    moved = browser.execute_script(
        "return [...document.querySelectorAll('[data-chain],[data-bend]')]"
        ".map(p => p.getAttribute('d') || '')"
    )
    groups = browser.execute_script(
        "return document.querySelectorAll('[data-spin],[data-lobe]').length"
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
    browser.get_log("performance")
    radius = min(140.0, box[3] / 4)
    product, turned = _dragged(browser, hub, radius, seconds)
    assert turned != SERVICE_DEG, "the crank did not turn"
    browser.get(f"data:text/html,{quote(BARE)}")
    browser.execute_script("begin(...arguments)", moved, groups, box)
    browser.get_log("performance")
    bare, _ = _dragged(browser, hub, radius, seconds)
    yield at_least("turning", f"{V8}: links drawn", float(links), 300)
    yield for_information("turning", f"{V8}: frames a second while dragged", product)
    yield for_information("turning", "frames a second of a bare page that moves as much", bare)
    yield at_least("turning", f"{V8}: frames against the bare page", product / bare, LEAST_SHARE)


def _dragged(
    browser: Chrome, hub: list[float], radius: float, seconds: float
) -> tuple[float, float]:
    """Frames a second while the mouse is dragged round ``hub``, and where the crank stands then."""

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
    shown = browser.find_elements(By.CSS_SELECTOR, "output[aria-label='Crank angle']")
    turned = float(shown[0].text.split("°")[0]) if shown else 0.0
    return _frames_drawn(browser) / spent, turned


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
