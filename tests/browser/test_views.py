"""Every main view: accessible in both themes, never scrolling sideways, usable by keys, honest when
things break.
"""

import pytest
from demo.browser import resize
from selenium.webdriver import ActionChains, Chrome, Keys
from selenium.webdriver.common.by import By
from tests.browser.by_keys import ByKeys
from tests.browser.conftest import Product
from tests.browser.person import Person

pytestmark = pytest.mark.browser

VIEWS = [
    ("AMB-1", "intake", "What brings it in?"),
    ("AMB-1", "readings", "No cam has been read"),
    ("AMB-1", "verdict", "Nothing was measured"),
    ("PIL-2", "readings", "By hand and by eye"),
    ("PIL-2", "readings/capture", "Every cycle laid over the last"),
    ("PIL-2", "readings/live", "Connect and start cold"),
    ("PIL-2", "readings/sweep", "Run the sweep"),
    ("PIL-2", "readings/sheet/chain_length", "Length"),
    ("PIL-2", "readings/sheet/endoscope", "It looks"),
    ("PIL-2", "readings/sheet/nothing", "There is no such worksheet"),
    ("PIL-2", "verdict", "Wear against the limit"),
    ("SNO-1", "plan", "Have ready"),
    ("SNO-1", "plan/estimate", "Has the owner said yes?"),
    ("AMB-1", "plan/estimate", "There is no plan yet"),
    ("AMB-1", "plan", "What gets renewed?"),
    ("FIR-3", "bench", "Right when"),
    ("AMB-1", "bench", "has not started"),
    ("GEN-1", "proof", "Turned by hand at the bench"),
    ("GEN-1", "proof/start", "What it did before the repair"),
    ("FIR-3", "proof/start", "Not yet"),
    ("AMB-4", "handover", "Frozen and sealed"),
]


# A bench's tablet both ways round, a telephone, a wall screen, and the tablet at twice its size.
SIZES = ((1280, 800), (800, 1280), (390, 844), (2560, 1440), (640, 400))


def first_capture(person: Person, job: int) -> int:
    return int(person.fetches(f"/api/jobs/{job}/readings")["captures"][0]["id"])


@pytest.mark.parametrize("theme", ["daylight", "lamp"])
def test_no_view_has_an_accessibility_fault(product: Product, browser: Chrome, theme: str) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    browser.execute_script("localStorage.setItem('theme', arguments[0])", theme)
    browser.refresh()
    person.sees("Sign in")
    found = {"sign-in": person.violations(theme)}
    person.signs_in("ivo")
    found["yard"] = person.violations(theme)
    found_jobs = person.fetches("/api/yard")["jobs"]
    # The demo's own: others may have begun one on the same unit since.
    jobs = {j["tag"]: j["id"] for j in sorted(found_jobs, key=lambda j: -j["id"])}
    for tag, stage, words in VIEWS:
        where = (
            f"{stage}/{first_capture(person, jobs[tag])}" if stage.endswith("capture") else stage
        )
        person.goes(f"/jobs/{jobs[tag]}/{where}")
        person.sees(words)
        person.waits()
        found[f"{stage} {tag}"] = [
            *person.violations(theme, is_bench=stage == "bench"),
            *person.looks("faintBorders", 3.0),
        ]
        if theme == "daylight":
            assert person.looks("smallTargets", 48) == [], stage
            for width, height in SIZES:
                resize(browser, width, height)
                assert person.looks("smallTexts") == [], f"{stage} at {width}"
                assert not person.overflows(), f"{stage} scrolls sideways at {width}"
            resize(browser, 1280, 800)
    assert {view: faults for view, faults in found.items() if faults} == {}
    assert person.console_errors() == []


PLACES = [
    ("units", "Engines are things of their own"),
    ("people", "Somebody new"),
    ("shop", "Name and ways"),
    ("stores", "Keep this list"),
    ("fleet", "Engine book"),
    ("fleet/1", "Its jobs"),
    ("fleet/trust", "Which readings can be trusted"),
    ("password", "New password once more"),
    ("books", "Check a book you are writing"),
    ("seals", "Depots believed here"),
]


@pytest.mark.parametrize("theme", ["daylight", "lamp"])
def test_no_place_of_a_lead_has_an_accessibility_fault(
    product: Product, browser: Chrome, theme: str
) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    browser.execute_script("localStorage.setItem('theme', arguments[0])", theme)
    browser.refresh()
    person.signs_in("sunna")
    found = {}
    for place, words in PLACES:
        person.goes(f"/{place}")
        person.sees(words)
        person.waits()
        found[place] = [*person.violations(theme), *person.looks("faintBorders", 3.0)]
        for width, height in ((800, 1280), (1280, 800)):
            resize(browser, width, height)
            assert not person.overflows(), f"{place} scrolls sideways at {width}"
    assert {place: faults for place, faults in found.items() if faults} == {}
    assert person.console_errors() == []


def test_keys_go_to_the_stages_and_a_wrong_password_is_said(
    product: Product, browser: Chrome
) -> None:
    person = Person(browser, product.address)
    browser.get(product.address)
    person.types("Login", "ivo")
    person.types("Password", "guess")
    person.press("Sign in")
    person.sees("Login or password is not right.")
    person.signs_in("ivo")
    jobs = {j["tag"]: j["id"] for j in person.fetches("/api/yard")["jobs"]}
    browser.get(f"{product.address}/jobs/{jobs['PIL-2']}/readings")
    person.sees("By hand and by eye")
    body = browser.find_element(By.TAG_NAME, "body")
    body.send_keys("3")
    person.sees("Suspects")
    body.send_keys("?")
    person.sees("Undo the last change")
    body.send_keys("y")
    person.sees("Units")
    assert browser.current_url == f"{product.address}/"
    for nowhere in ("", "/engine-room", "/intake/below"):
        browser.get(f"{product.address}/jobs/{jobs['PIL-2']}{nowhere}")
        person.sees("What brings it in?")


def test_a_stopped_database_is_said_and_what_was_typed_is_still_there(
    product: Product, browser: Chrome
) -> None:
    person = Person(browser, product.address)
    person.signs_in("pell")
    jobs = {j["tag"]: j["id"] for j in person.fetches("/api/yard")["jobs"]}
    browser.get(f"{product.address}/jobs/{jobs['AMB-1']}/intake")
    person.sees("What brings it in?")
    person.field("Replaced before").send_keys("Tensioner, two years ago")
    product.database("stop")
    try:
        person.press("Save and go to Readings")
        person.sees("The database does not answer.")
        assert person.field("Replaced before").get_attribute("value") == "Tensioner, two years ago"
    finally:
        product.database("start")
    browser.refresh()
    person.sees("Typed, not saved yet.")
    assert person.field("Replaced before").get_attribute("value") == "Tensioner, two years ago"
    person.press("Save and go to Readings")
    person.sees("No cam has been read")


FIRST_HIT = "[role=option][data-focused]"


def test_a_search_leads_where_it_says_and_the_bench_back_to_its_step(
    product: Product, browser: Chrome
) -> None:
    person = ByKeys(browser, product.address)
    person.signs_in("ivo")
    jobs = {j["tag"]: j["id"] for j in person.fetches("/api/yard")["jobs"]}

    def searches(typed: str, hit: str) -> None:
        ActionChains(browser).send_keys("/").perform()
        person.sees("Type a piece of it")
        ActionChains(browser).send_keys(typed).perform()
        person.sees(hit)
        person.until(lambda _: hit in browser.find_element(By.CSS_SELECTOR, FIRST_HIT).text)
        ActionChains(browser).send_keys(Keys.ENTER).perform()

    job = jobs["FIR-3"]
    following = person.fetches(f"/api/jobs/{job}")["next"]
    steps = person.fetches(f"/api/jobs/{job}/bench")["steps"]
    refs = [step["ref"] for step in steps]
    at = refs.index(following["step"]) + 1
    other = next(ref for ref in reversed(refs) if ref != following["step"])
    browser.get(f"{product.address}/jobs/{job}/bench?step={other}")
    person.sees(f"Step {refs.index(other) + 1} ·")
    person.press(following["press"])
    person.sees(f"Step {at} ·")
    searches("tensioner b", "tensioner · Ostrey Tansy")
    person.sees("Drive face")
    person.until(lambda d: "/engine?part=tensioner_b" in d.current_url)
    chosen = browser.find_element(By.CSS_SELECTOR, "[aria-label='Chosen part']")
    assert "Tensioner B" in chosen.text
    searches("turnstone", "First responder Turnstone")
    person.sees("Engines are things of their own")
    sought = browser.find_element(By.CSS_SELECTOR, "li[aria-current]")
    assert "Turnstone" in sought.text


BEHIND_THE_BACK = """
    const [job, done] = arguments;
    (async () => {
        const csrf = (await (await fetch('/api/session')).json()).csrf;
        const head = await (await fetch(`/api/jobs/${job}`)).json();
        const body = JSON.stringify({ ...head.intake, where: 'front top', version: head.version });
        const headers = { 'Content-Type': 'application/json', 'X-CSRFToken': csrf };
        done((await fetch(`/api/jobs/${job}/intake`, { method: 'PUT', body, headers })).status);
    })();
"""


def test_a_stale_write_is_refused_with_what_changed_and_nothing_typed_is_lost(
    product: Product, browser: Chrome
) -> None:
    person = Person(browser, product.address)
    person.signs_in("pell")
    job = next(j["id"] for j in person.fetches("/api/yard")["jobs"] if j["tag"] == "SNO-1")
    browser.get(f"{product.address}/jobs/{job}/intake")
    person.sees("What brings it in?")
    person.field("Oil note").send_keys("half a litre low", Keys.TAB)
    assert browser.execute_async_script(BEHIND_THE_BACK, job) == 200
    person.press("Save and go to Readings")
    person.sees("Somebody else changed this job")
    person.sees("Pell Ardmoor: Complaint: Slap at hot idle")
    assert person.field("Oil note").get_attribute("value") == "half a litre low"
    person.press("Save and go to Readings")
    person.sees("By hand and by eye")
    intake = person.fetches(f"/api/jobs/{job}")["intake"]
    assert (intake["where"], intake["oil_note"]) == ("front top", "half a litre low")
