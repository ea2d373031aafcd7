"""Readings in the browser: files that ask, the close look, the box live, the sweep."""

from pathlib import Path

import numpy as np
import pytest
from selenium.webdriver import Chrome, Keys
from selenium.webdriver.common.by import By
from tests.browser.conftest import Product
from tests.browser.person import Person

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures import write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise

pytestmark = pytest.mark.browser


def start_on(product: Product, browser: Chrome, unit: str) -> tuple[Person, int]:
    """A new job on a unit, at its readings."""
    person = Person(browser, product.address)
    person.signs_in("pell")
    person.press(f"Start job on {unit}")
    person.sees("What brings it in?")
    job = int(browser.current_url.split("/")[4])
    browser.get(f"{product.address}/jobs/{job}/readings")
    person.sees("By hand and by eye")
    return person, job


def drop(person: Person, path: Path) -> None:
    person.driver.find_element(By.CSS_SELECTOR, "input[aria-label='Capture file']").send_keys(
        str(path)
    )


def test_a_file_asks_is_swapped_back_and_looked_at_closely(
    product: Product, browser: Chrome, book: EngineBook, tmp_path: Path
) -> None:
    person, job = start_on(product, browser, "Snow groomer Dotterel")
    good = synthesise(
        book,
        Faults(jumped_teeth={"chain_b/cam_b_in": 1}),
        Conditions(seconds=2.0),
        np.random.default_rng(1),
    )
    channels = dict(good.channels)
    channels["cam_a_ex"], channels["cam_b_ex"] = channels["cam_b_ex"], channels["cam_a_ex"]
    write_csv(Capture(good.rate_hz, channels), tmp_path / "shed.csv")
    drop(person, tmp_path / "shed.csv")
    person.sees("look swapped")
    person.press("Swap them back and read it")
    person.sees("Look closely")
    person.press(f"C{person.fetches(f'/api/jobs/{job}/readings')['captures'][-1]['id']}")
    person.sees("± 0.")
    person.chooses("Look at it", "Along time")
    person.sees("Press on the strips to set the cursor")
    slide = browser.find_elements(By.CSS_SELECTOR, "input[type=range]")[-1]
    slide.send_keys(Keys.ARROW_LEFT * 3)
    person.sees("0.3° earlier: it came that much late")
    person.press("Next edge")
    person.sees("edge 1 of")
    person.press("Measure")
    for _ in range(3):
        person.press("Next edge")
    person.sees("from the mark")
    person.types("Leave out", "sensor was touched")
    person.press("Leave it out")
    person.sees("sensor was touched")
    person.press("Take it back in")
    person.until(lambda _: "Take it back in" not in person.text())
    person.chooses("Look at it", "Edge by edge")
    person.sees("One edge off is the tone wheel")
    person.chooses("Look at it", "Cycle by cycle")
    person.sees("Steady from the start")
    (tmp_path / "bad.csv").write_bytes(b"\x00\x01\x02")
    person.press("All readings")
    person.sees("By hand and by eye")
    drop(person, tmp_path / "bad.csv")
    person.sees("This is not a text file.")
    person.press("Put this file aside")
    person.until(lambda _: "This is not a text file." not in person.text())
    assert person.console_errors() == []


def test_the_box_is_watched_live_and_the_phasers_swept(product: Product, browser: Chrome) -> None:
    person, job = start_on(product, browser, "Fire pump Skua")
    before = len(person.fetches(f"/api/jobs/{job}/readings")["captures"])
    person.press("Watch it live")
    person.press("Connect and start cold")
    person.sees("Reads cleanly.")
    person.sees("scatter")
    person.press("Hold 2000 rpm")
    person.chooses("While it ran, the phasers were", "parked")
    person.press("Record from now on")
    person.sees("Stop and keep the record")
    person.until(lambda _: (person.fetches(f"/api/jobs/{job}/live")["recording_s"] or 0) > 2)
    person.press("Stop and keep the record")
    person.until(
        lambda _: len(person.fetches(f"/api/jobs/{job}/readings")["captures"]) == before + 1
    )
    person.press("Let go of the box")
    person.sees("Connect and start cold")
    person.press("All readings")
    person.press("Sweep the phasers")
    person.sees("Warm the engine to hot idle")
    person.press("Run the sweep")
    person.sees("Phaser A (1-3-5): sound")
    person.sees("Let it stand until cold")
    assert person.console_errors() == []
