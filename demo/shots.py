"""script/shots: one picture of each main view from the demo data, into docs/screenshots/."""

import os
import sys
import time
from pathlib import Path

from selenium.webdriver import Chrome
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from demo.browser import chromium, picture, resize

WORKED_OUT_S = 180
VIEWS = [
    ("yard", "/", None),
    ("fleet", "/fleet", None),
    ("trend", "/fleet/9", None),
    ("intake", "AMB-1", "intake"),
    ("readings", "PIL-2", "readings"),
    ("verdict", "GEN-1", "verdict"),
    ("plan", "SNO-1", "plan"),
    ("estimate", "SNO-1", "plan/estimate"),
    ("bench", "FIR-3", "bench"),
    ("proof", "AMB-4", "proof"),
    ("handover", "AMB-4", "handover"),
    ("capture", "PIL-2", "readings/capture"),
    ("worksheet", "AMB-1", "readings/sheet/lash"),
    ("sweep", "AMB-1", "readings/sweep"),
    ("start", "GEN-1", "proof/start"),
    ("face", "Brindle Fennel", "face"),
    ("counts", "Ostrey Tansy", "counts"),
    ("touch", "Brindle Fennel", "touch"),
    ("book", "Ostrey Teasel", ""),
]


def press(driver: object, words: str) -> None:
    """Press the button that begins with these words."""
    script = (
        "[...document.querySelectorAll('button')].find((b) => "
        "b.innerText.startsWith(arguments[0])).click()"
    )
    driver.execute_script(script, words)  # type: ignore[attr-defined]


def get_ready(driver: Chrome, name: str) -> None:
    """Bring a view into the state its picture shows."""
    if name == "sweep":
        press(driver, "Run the sweep")
        time.sleep(3)
    if name == "start":
        press(driver, "Connect and start cold")
        settle(driver, "What it did before")
        press(driver, "It rattles since the start")
        time.sleep(2)
        press(driver, "Pressure is there")
        press(driver, "Quiet now")
        time.sleep(7)
    if name == "face":
        for _ in range(3):
            press(driver, "+10°")
    if name in ("fleet", "trend"):
        settle(driver, "orked out", WORKED_OUT_S)
    if name == "counts":
        for _ in range(5):
            press(driver, "Five")


def settle(driver: Chrome, text: str = "Fetching", seconds: float = 30) -> None:
    """Wait until nothing is being fetched any more."""
    wait = WebDriverWait(driver, seconds)
    wait.until(lambda d: text not in d.find_element(By.TAG_NAME, "body").text)
    time.sleep(0.6)


def main(
    address: str, folder: Path, only: set[str], theme: str, size: tuple[int, int], scroll: int
) -> None:
    """Sign in, visit each view, and save its picture."""
    driver = chromium(*size)
    try:
        driver.get(address)
        WebDriverWait(driver, 30).until(
            lambda d: d.find_elements(By.CSS_SELECTOR, "input[type=password]")
        )
        driver.execute_script("localStorage.setItem('theme', arguments[0])", theme)
        driver.refresh()
        WebDriverWait(driver, 30).until(
            lambda d: d.find_elements(By.CSS_SELECTOR, "input[type=password]")
        )
        time.sleep(0.5)
        driver.find_element(By.CSS_SELECTOR, "input[autocomplete=username]").send_keys("ivo")
        driver.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(
            "saltmere", Keys.ENTER
        )
        WebDriverWait(driver, 30).until(
            lambda d: "Units" in d.find_element(By.TAG_NAME, "body").text
        )
        yard = driver.execute_async_script(
            "const done = arguments[0]; fetch('/api/yard').then((r) => r.json()).then(done)"
        )
        jobs = {j["tag"]: j["id"] for j in yard["jobs"]}
        listed = driver.execute_async_script(
            "const done = arguments[0]; fetch('/api/books').then((r) => r.json()).then(done)"
        )
        books = {b["name"]: b["id"] for b in listed["books"]}
        for name, where, stage in VIEWS:
            if only and name not in only:
                continue
            if stage is not None and stage.endswith("capture"):
                script = (
                    "const done = arguments[1]; fetch(arguments[0]).then((r) => "
                    "r.json()).then(done)"
                )
                found = driver.execute_async_script(script, f"/api/jobs/{jobs[where]}/readings")
                stage = f"{stage}/{found['captures'][0]['id']}"
            place = (
                f"/books/{books[where]}/{stage}"
                if where in books
                else where
                if stage is None
                else f"/jobs/{jobs[where]}/{stage}"
            )
            driver.get(address + place)
            resize(driver, *size)
            time.sleep(0.4)
            settle(driver)
            get_ready(driver, name)
            if scroll:
                driver.execute_script(
                    "document.querySelector('main').scrollTo(0, arguments[0])", scroll
                )
                time.sleep(0.3)
            picture(driver, folder / f"{name}.png")
    finally:
        driver.quit()


if __name__ == "__main__":
    width, _, height = os.environ.get("SHOT_SIZE", "1280x800").partition("x")
    main(
        sys.argv[1],
        Path(sys.argv[2]),
        set(sys.argv[3:]),
        os.environ.get("SHOT_THEME", "daylight"),
        (int(width), int(height)),
        int(os.environ.get("SHOT_SCROLL", "0")),
    )
