"""Nothing written at the bench is lost or there twice: steps are closed in a real browser while
what runs is killed, the browser with it, and the network is held up, at random moments.
"""

import os
import signal
import subprocess
import tempfile
import threading
import time
import uuid
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass

import numpy as np
from demo.browser import WHOLE, chromium
from demo.walk import Visitor, begin
from selenium.common.exceptions import TimeoutException, WebDriverException
from tests.browser.at_bench import press_right
from tests.browser.person import Person
from urllib3.exceptions import HTTPError

from bench.figure import Figure, at_least, at_most
from bench.house import Served
from bench.kills import Parts
from bench.tablets import Line
from flaneur.core.plan.steps import PlanStep

STEPS, STRIKES = 6, 2
STRUCK = ("web-0.sock", "web-1.sock", "flaneur.worker", "postmaster", "proxy", "supervisor")
HELD_UP_S, WITHIN_S = 3.0, 120.0
COOKIES_KEPT_S = 35.0  # a browser writes its cookies down every half minute
BROKEN = (WebDriverException, HTTPError, OSError)


@dataclass
class Count:
    """What came of all walks."""

    accepted: int = 0
    lost: int = 0
    doubled: int = 0
    disordered: int = 0
    strikes: int = 0
    forgotten: int = 0


class Tablet:
    """A browser with a profile of its own, which may be killed and begun again."""

    def __init__(self, address: str, job: int) -> None:
        self.address, self.job = address, job
        self.profile = tempfile.mkdtemp(prefix="flaneur-tablet-")
        self.driver = chromium(profile=self.profile, binary=WHOLE)
        self.forgotten, self.killed_at = 0, -COOKIES_KEPT_S
        self._sign_in()
        self.driver.execute_async_script("navigator.serviceWorker.ready.then(arguments[0])")
        self.driver.refresh()  # what the worker keeps, it keeps from now on
        self.title()

    @property
    def person(self) -> Person:
        return Person(self.driver, self.address)

    def title(self) -> str:
        """The step that is shown."""

        def look(_: object) -> str:
            found = "return document.querySelector('main h1')?.innerText ?? ''"
            title = str(self.driver.execute_script(found))
            return "" if title == "Sign in" and self.sign_in_again() is None else title

        return str(self.person.until(look, WITHIN_S))

    def kill(self) -> None:
        """End it as a flat battery does."""
        self.killed_at = time.monotonic()
        subprocess.run(["pkill", "-KILL", "-f", self.profile], check=False)

    def begin_again(self) -> None:
        """Another browser on the same profile, at the same address."""
        with suppress(*BROKEN):
            self.driver.quit()
        subprocess.run(["pkill", "-KILL", "-f", self.profile], check=False)
        self.driver = chromium(profile=self.profile, binary=WHOLE)
        end = time.monotonic() + WITHIN_S
        while time.monotonic() < end:
            with suppress(WebDriverException):
                self.driver.get(f"{self.address}/jobs/{self.job}/bench")
                if self.driver.execute_script("return !!document.querySelector('main h1')"):
                    self.sign_in_again()
                    return
            time.sleep(1)

    def sign_in_again(self) -> None:
        """Where the browser was killed before it wrote its cookies down, it knows nobody. Where it
        was not, the product forgot somebody, and that is counted.
        """
        asks = "return !!document.querySelector('[autocomplete=current-password]')"
        if self.driver.execute_script(asks):
            self.forgotten += not 0 <= self.killed_at - self.signed_in_at < COOKIES_KEPT_S
            self._sign_in()

    def _sign_in(self) -> None:
        self.signed_in_at = time.monotonic()
        self.person.signs_in("ivo")
        self.driver.get(f"{self.address}/jobs/{self.job}/bench")

    def close(self) -> None:
        """Put it away."""
        with suppress(*BROKEN):
            self.driver.quit()
        subprocess.run(["rm", "-rf", self.profile], check=False)


def measure(product: Served, walks: int) -> Iterator[Figure]:
    """Figures from a running product, which stands again at the end."""
    count = Count()
    for number in range(walks):
        _walk(product, np.random.default_rng(90_000 + number), count)
    yield at_least("bench", f"entries accepted in {walks} walks", count.accepted, walks)
    yield at_least(
        "bench", "strikes at what runs, the browser or the network", count.strikes, walks
    )
    yield at_most("bench", "accepted entries lost", count.lost, 0)
    yield at_most("bench", "entries there twice", count.doubled, 0)
    yield at_most(
        "bench", "sign-ins forgotten, no browser killed just after them", count.forgotten, 0
    )
    yield at_most("bench", "walks whose order was not kept", count.disordered, 0)


def own_job(person: Visitor, lead: Visitor, scope: tuple[str, ...] = ("water_pump",)) -> int:
    """A job at the bench on a unit of its own, which nobody else looks at."""
    tag = f"TST-{uuid.uuid4().hex[:6].upper()}"
    found = lead.send("POST", "/api/units", {"tag": tag, "name": f"Trial {tag}", "kind": "trial"})
    unit = next(u["id"] for u in found["units"] if u["tag"] == tag)
    book = next(b["id"] for b in found["books"] if "Ostrey Tansy" in str(b))
    lead.send("POST", "/api/engines", {"number": tag, "book_id": book, "unit_id": unit})
    job = int(person.send("POST", "/api/jobs", {"unit_id": unit})["id"])
    person.change(job, "PUT", "/plan", {"scope": list(scope)})
    begin(person, lead, job)
    return job


def _walk(product: Served, rng: np.random.Generator, count: Count) -> None:
    line, lead = Line(product.address, "ivo"), Line(product.address, "sunna")
    job = own_job(line, lead)
    raw = line.send("GET", f"/api/jobs/{job}/bench")["steps"]
    steps = {s["title"]: PlanStep.model_validate(s) for s in raw}
    tablet, accepted = Tablet(product.address, job), list[str]()
    struck = set(rng.choice(STEPS, STRIKES, replace=False))
    for turn in range(STEPS):
        strike = _strike(product, tablet, rng) if turn in struck else None
        count.strikes += strike is not None
        try:
            title = tablet.title()
            press_right(tablet.person, steps[title])
            tablet.person.until(lambda _, t=title: tablet.title() != t, WITHIN_S)
            accepted.append(steps[title].ref)
        except BROKEN:
            if strike is not None:
                strike.join()
            tablet.begin_again()
        if strike is not None:
            strike.join()
    _all_sent(product, tablet)
    tablet.close()
    count.forgotten += tablet.forgotten
    line.close()
    line = Line(product.address, "ivo")  # what was killed took the old connection with it
    bench = line.send("GET", f"/api/jobs/{job}/bench")
    kept = [r["step"] for r in bench["records"]]
    count.accepted += len(accepted)
    count.lost += len(set(accepted) - set(kept))
    count.doubled += sum(times > 1 for times in bench["occurrences"].values())
    count.disordered += [ref for ref in kept if ref in accepted] != accepted
    line.close()
    lead.close()


def _all_sent(product: Served, tablet: Tablet) -> None:
    """Wait until everything runs and nothing waits on the tablet."""
    end = time.monotonic() + WITHIN_S
    while time.monotonic() < end:
        with suppress(*BROKEN, TimeoutException, AssertionError):
            if all(Parts(product).pids().values()):
                tablet.driver.get(f"{tablet.address}/jobs/{tablet.job}/bench")
                tablet.person.until(lambda d: d.find_elements("css selector", "main h1"), 20)
                tablet.sign_in_again()
                tablet.person.sees("steps closed", 20)
                tablet.person.until(
                    lambda _: "wait to be sent" not in tablet.person.text(), WITHIN_S
                )
                return
        time.sleep(1)


def _strike(product: Served, tablet: Tablet, rng: np.random.Generator) -> threading.Thread:
    """Strike at something within the next second, from beside."""
    what = str(rng.choice([*STRUCK, "browser", "network"]))
    after = float(rng.uniform(0.0, 1.0))

    def go() -> None:
        time.sleep(after)
        parts = Parts(product)
        with suppress(ProcessLookupError):
            if what == "browser":
                tablet.kill()
            elif what == "network":
                held = [parts.pid("proxy"), parts.pid("proxy's worker")]
                for pid in held:
                    os.kill(pid, signal.SIGSTOP)
                time.sleep(HELD_UP_S)
                for pid in held:
                    os.kill(pid, signal.SIGCONT)
            else:
                os.kill(parts.pid(what), signal.SIGKILL)

    thread = threading.Thread(target=go, daemon=True)
    thread.start()
    return thread
