"""The drive face turned, counted on, worn and set wrong; the touch map; the sheet on one page; a
broken book.
"""

import base64
import io
import math
from itertools import pairwise
from pathlib import Path

import pytest
from demo.browser import resize
from pypdf import PdfReader
from selenium.webdriver import ActionChains, Chrome, Keys
from selenium.webdriver.common.by import By
from selenium.webdriver.support.ui import Select
from tests.browser.colleague import Colleague, own_job
from tests.browser.conftest import Product
from tests.browser.person import Person
from tests.support.cluster import ROOT
from tests.support.raw import read_yaml, write_yaml

pytestmark = pytest.mark.browser


@pytest.fixture
def person(product: Product, browser: Chrome) -> Person:
    found = Person(browser, product.address)
    found.signs_in("pell")
    return found


def book_id(person: Person, name: str) -> int:
    return next(int(b["id"]) for b in person.fetches("/api/books")["books"] if b["name"] == name)


def opens(person: Person, name: str, view: str, words: str) -> None:
    person.driver.get(f"{person.address}/books/{book_id(person, name)}{view}")
    person.sees(words)


def crank(person: Person) -> float:
    return float(
        person.driver.find_element(By.CSS_SELECTOR, "output[aria-label='Crank angle']").text.split(
            "°"
        )[0]
    )


def clock(person: Person, wheel: str) -> float:
    """Where a wheel stands, from its rotation on the page."""
    turned = (
        person.driver.find_element(By.CSS_SELECTOR, f"[data-spin={wheel}]").get_attribute(
            "transform"
        )
        or ""
    )
    return -float(turned.removeprefix("rotate(").removesuffix(")"))


def link_ends(person: Person, chain: str) -> str:
    return str(
        person.driver.find_element(
            By.CSS_SELECTOR, f"[data-chain={chain}][data-what=even]"
        ).get_attribute("d")
    )


@pytest.mark.parametrize("size", [(1280, 800), (800, 1280)])
def test_no_drawing_is_crowded_or_cut_off(person: Person, size: tuple[int, int]) -> None:
    resize(person.driver, *size)
    wrong = {}
    for book in person.fetches("/api/books")["books"]:
        person.driver.get(f"{person.address}/books/{book['id']}/face")
        person.sees("Marks agree again")
        names = person.driver.find_elements(By.CSS_SELECTOR, "[data-labels] text")
        assert names, f"{book['name']}: no wheel has its name"
        wrong[book["name"]] = person.looks("crowdedDrives") + person.looks("smallTexts")
    assert {name: found for name, found in wrong.items() if found} == {}


VIEWS = [
    ("", "Worked out from the book"),
    ("/face", "Marks agree again"),
    ("/counts", "I counted on the engine"),
    ("/touch", "Where you stand"),
    ("/sheet", "Not timing marks"),
]


@pytest.mark.parametrize("theme", ["daylight", "lamp"])
def test_no_view_of_a_book_has_an_accessibility_fault(
    product: Product, browser: Chrome, theme: str
) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    browser.execute_script("localStorage.setItem('theme', arguments[0])", theme)
    person.signs_in("ivo")
    found: dict[str, list[str]] = {}
    browser.get(f"{product.address}/books")
    person.sees("Check a book you are writing")
    found["books"] = person.violations(theme)
    for name in ("Ostrey Tansy", "Tarsel Comfrey"):
        for view, words in VIEWS:
            if name == "Tarsel Comfrey" and (theme == "lamp" or view in ("", "/counts")):
                continue
            opens(person, name, view, words)
            found[name + view] = person.violations(theme)
            if theme == "daylight":
                for width, height in ((1280, 800), (800, 1280), (2560, 1440)):
                    resize(browser, width, height)
                    assert not person.overflows(), f"{name}{view} scrolls sideways at {width}"
                resize(browser, 1280, 800)
    assert {view: faults for view, faults in found.items() if faults} == {}
    assert person.console_errors() == []


def test_the_crank_turns_by_typing_keys_and_dragging(person: Person) -> None:
    opens(person, "Ostrey Tansy", "/face", "Marks agree again")
    body = person.driver.find_element(By.TAG_NAME, "body")
    before = link_ends(person, "chain_a")
    crank_clock, cam_clock = clock(person, "crank"), clock(person, "cam_a_in")
    body.send_keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_UP)
    person.until(lambda _: crank(person) == 12)
    assert clock(person, "crank") - crank_clock == pytest.approx(12, abs=0.01)
    assert clock(person, "cam_a_in") - cam_clock == pytest.approx(6, abs=0.01)
    assert clock(person, "gear_balance") - 180 == pytest.approx(-12, abs=0.01)
    assert link_ends(person, "chain_a") != before
    person.sees("Cams must not be loose here")
    person.types("Turn on to", "60°")
    person.press("Go")
    person.until(lambda _: crank(person) == 60)
    person.sees("No valve reaches a piston here.")
    person.sees("Valves of one cylinder can meet each other")
    person.types("Turn on to", "twelve")
    person.press("Go")
    person.sees("Read “twelve”, expected an angle from 0 to below 720")
    picture = person.driver.find_element(By.CSS_SELECTOR, "[data-chain]").find_element(
        By.XPATH, "./ancestor::*[local-name()='svg']"
    )
    hub = person.driver.execute_script(
        "const r=document.querySelector('[data-spin=crank]').getBoundingClientRect();return "
        "[r.x+r.width/2,r.y+r.height/2]"
    )
    middle = (
        picture.rect["x"] + picture.rect["width"] / 2,
        picture.rect["y"] + picture.rect["height"] / 2,
    )
    at = [
        (hub[0] + 90 * math.sin(a) - middle[0], hub[1] - 90 * math.cos(a) - middle[1])
        for a in (1.2, 1.4, 1.6, 1.8)
    ]
    drag = (
        ActionChains(person.driver)
        .move_to_element_with_offset(picture, int(at[0][0]), int(at[0][1]))
        .click_and_hold()
    )
    for (x0, y0), (x1, y1) in pairwise(at):
        drag = drag.move_by_offset(int(x1) - int(x0), int(y1) - int(y0))
    drag.release().perform()
    assert crank(person) - 60 == pytest.approx(math.degrees(0.6), abs=4)


def test_turned_back_the_slack_goes_over_before_the_cams_follow(person: Person) -> None:
    opens(person, "Dunmarrow Thistle", "/face", "Marks agree again")
    body = person.driver.find_element(By.TAG_NAME, "body")
    cam, crank_clock, taut = (
        clock(person, "cam"),
        clock(person, "crank"),
        link_ends(person, "timing"),
    )
    body.send_keys(Keys.ARROW_LEFT * 3)
    person.sees("Turned back 3.0°.")
    assert clock(person, "crank") - crank_clock == pytest.approx(-3, abs=0.01)
    assert clock(person, "cam") == pytest.approx(cam, abs=0.01)
    assert link_ends(person, "timing") != taut
    body.send_keys(Keys.ARROW_LEFT * 3)
    person.until(lambda _: clock(person, "cam") < cam - 0.5)
    lash = 6 + 2 * (clock(person, "cam") - cam)
    assert lash == pytest.approx(3.7, abs=0.2)
    stood = clock(person, "cam")
    body.send_keys(Keys.ARROW_RIGHT * 2)
    person.sees("Turned back 1.7°.")
    assert clock(person, "cam") == pytest.approx(stood, abs=0.01), (
        "turned on, the cam waits until the slack is taken up"
    )
    body.send_keys(Keys.HOME)
    person.until(lambda _: clock(person, "cam") % 360 == pytest.approx(cam % 360, abs=0.01))
    assert "Turned back" not in person.text()


def test_marks_meet_where_the_book_says_and_a_part_tells_what_is_known(person: Person) -> None:
    opens(person, "Quillon Sorrel", "/face", "Marks agree again")

    def meeting() -> list[str]:
        return [
            str(e.get_attribute("data-meet"))
            for e in person.driver.find_elements(By.CSS_SELECTOR, ".meets")
        ]

    assert sorted(meeting()) == ["dot_ex", "dot_in", "line_pulley"]
    body = person.driver.find_element(By.TAG_NAME, "body")
    body.send_keys(Keys.ARROW_UP)
    person.until(lambda _: meeting() == [])
    person.driver.find_element(By.CSS_SELECTOR, "g[aria-label='Intake sprocket']").click()
    person.sees("36, 20.0° of the crank each")
    person.sees("no timing mark: Balance hole from machining")
    person.sees("Travel")


def test_a_tooth_off_shows_what_it_would(person: Person) -> None:
    opens(person, "Brindle Fennel", "/face", "Marks agree again")
    person.chooses("Show the engine", "one tooth off")
    person.chooses("By", "1 early")
    person.sees("one tooth off: Chain A (1-3-5-7) 1 tooth early at the Cam sprocket A")
    person.sees("Valves would touch")
    person.sees("83 instead of 82")
    person.sees("17.1° early")
    assert "as the book" in person.text()


def test_a_jobs_engine_is_drawn_as_worn_and_says_how_exaggerated(person: Person) -> None:
    colleague = Colleague(person.address, "ivo")
    units = {u["tag"]: u["id"] for u in colleague.send("GET", "/api/yard")["units"]}
    fresh = colleague.send("POST", "/api/jobs", unit_id=units["AMB-10"])["id"]
    person.driver.get(f"{person.address}/jobs/{fresh}/intake")
    person.sees("What brings it in?")
    person.press("Turn the engine")
    person.sees("Marks agree again")
    person.chooses("Show the engine", "as it is worn")
    person.sees("No readings yet: wear unknown, drawn as the book has it")
    person.driver.get(f"{person.address}/jobs/{own_job(colleague, 'PIL-2')}/engine")
    person.sees("Marks agree again")
    person.chooses("Show the engine", "as it is worn")
    person.sees(
        "wear drawn ×5, not to scale; Secondary chain B (2-4-6) jumped at the intake sprocket B, 1 "
        "tooth late"
    )
    person.chooses("Wear drawn", "×20")
    person.sees("wear drawn ×20, not to scale")
    person.chooses("Wear drawn", "×1")
    person.sees("wear to scale, ×1")


def test_links_are_counted_one_by_one(person: Person) -> None:
    opens(person, "Ostrey Tansy", "/counts", "I counted on the engine")
    body = person.driver.find_element(By.TAG_NAME, "body")
    body.send_keys(Keys.ARROW_RIGHT * 3, Keys.ARROW_UP)
    person.sees("25 more to the mark of the Idler primary sprocket")
    assert len(person.driver.find_elements(By.CSS_SELECTOR, "[data-count]")) == 9
    body.send_keys(Keys.END)
    person.sees("33 is right.")
    end, mark = person.driver.execute_script(
        "const c=(e)=>{const r=e.getBoundingClientRect();return [r.x+r.width/2,r.y+r.height/2]};"
        "const q=(s)=>c(document.querySelector(s));"
        "return [q('[data-count=\"33\"] circle'),q('[data-chain=primary][data-what=\"33\"]')]"
    )
    assert math.dist(end, mark) < 4
    person.types("I counted on the engine", "34")
    person.sees("34: one too many")
    person.sees("Idler one tooth early")
    person.types("I counted on the engine", "31")
    person.sees("31: 2 short")
    person.types("I counted on the engine", "many")
    person.sees("Read “many”, expected a whole number of links.")


def test_the_touch_map_says_what_holds_where_one_stands(person: Person) -> None:
    opens(person, "Brindle Fennel", "/touch", "Where you stand")
    person.sees("nothing touches here")
    spot = person.driver.find_element(By.CSS_SELECTOR, "[role=slider]")
    for _ in range(18):
        spot.send_keys(Keys.ARROW_DOWN)
    for _ in range(44):
        spot.send_keys(Keys.ARROW_LEFT)
    person.sees("18° early")
    person.sees("a valve touches here")
    person.sees("Teeth off until valves touch")
    person.sees("and no further")
    person.sees("exhaust of cylinder 6")
    held = person.driver.find_element(By.XPATH, "//label[starts-with(., 'Cams held by')]//select")
    Select(held).select_by_visible_text("Followers out")
    person.sees("its springs push with 0.0 N·m")
    person.driver.find_element(By.XPATH, "//label[contains(., 'Chain B (2-4-6-8)')]").click()
    person.until(lambda _: "Cam B (2-4-6-8) stays" not in person.text())
    person.sees("seen locked in park")


def test_heads_that_can_meet_are_never_green(person: Person) -> None:
    opens(person, "Ostrey Teasel", "/touch", "Where you stand")
    person.sees("No valve reaches a piston here. Valves of one cylinder can meet each other")
    person.sees("Do not turn the crank")
    person.sees("hold it before the chain comes off")
    assert "Every cam may be loose" not in person.text()


@pytest.mark.parametrize(
    "name", ["Ostrey Tansy", "Tarsel Comfrey", "Brindle Fennel", "Ostrey Teasel"]
)
def test_the_position_sheet_prints_on_one_page(person: Person, name: str) -> None:
    opens(person, name, "/sheet", "Not timing marks")
    printed = PdfReader(io.BytesIO(base64.b64decode(person.driver.print_page())))
    assert len(printed.pages) == 1
    text = printed.pages[0].extract_text()
    assert name in text
    assert "Check positions" in text


def test_a_broken_book_is_told_line_by_line(person: Person, tmp_path: Path) -> None:
    raw = read_yaml((ROOT / "engines" / "quillon-sorrel.yaml").read_text(encoding="utf-8"))
    raw["chains"]["timing"]["links"] = 160
    raw["clearance"]["valves"]["intake"]["rest_gap_mm"] = -3.0
    file = tmp_path / "mine.yaml"
    file.write_text(write_yaml(raw), encoding="utf-8")
    person.driver.get(f"{person.address}/books")
    person.sees("Check a book you are writing")
    person.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(file))
    person.sees("mine.yaml:")
    person.sees("160 links close at no extension from 0 to 28 mm")
    person.sees("expected: above 0 mm: a closed valve cannot stand in the piston")
