"""Tablets on the workshop's network: each a person signed in who opens pages and closes steps of a
job at the running product.
"""

import http.client
import json
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import urlsplit

import numpy as np
from demo.depot import PASSWORD, DemoJob
from demo.walk import Visitor, answered, walk

from flaneur.core.plan.steps import PlanStep

THINKS_S = 3.0
CLOSES = 1 / 3  # of the times a person does something
COMPLAINT = "Rattle for three seconds on every cold start."
WORKED = DemoJob(
    "FIR-3", "proof", COMPLAINT, "cold start", "front top", "14 h", "good", scope=("arm_p",)
)


@dataclass
class Answered:
    """One request: when it was sent (monotonic), how long it took, and its status; nought where
    the connection broke.
    """

    at: float
    took_s: float
    status: int
    path: str


@dataclass
class Line(Visitor):
    """A visitor whose requests go over the network, one connection kept open."""

    address: str
    login: str
    answers: list[Answered] = field(default_factory=list)

    def __post_init__(self) -> None:
        where = urlsplit(self.address)
        self.connection = http.client.HTTPConnection(str(where.hostname), where.port, timeout=60)
        self.versions: dict[int, int] = {}
        self.cookie = ""
        self.csrf = ""
        self.csrf = self.send("GET", "/api/session")["csrf"]
        said = self.send("POST", "/api/session", {"login": self.login, "password": PASSWORD})
        self.csrf = said["csrf"]

    def close(self) -> None:
        """Hang up."""
        self.connection.close()

    def ask(self, method: str, path: str, body: dict[str, Any] | None = None) -> tuple[int, bytes]:
        """Send one request and wait for all of its answer: status, nought where none came, and
        body.
        """
        kind = "application/json" if body is not None else ""
        return self._ask(method, path, None if body is None else json.dumps(body).encode(), kind)

    def post(self, path: str, body: bytes, kind: str) -> tuple[int, bytes]:
        """Send a body as it is."""
        return self._ask("POST", path, body, kind)

    def _ask(self, method: str, path: str, body: bytes | None, kind: str) -> tuple[int, bytes]:
        headers = {"Cookie": self.cookie, "X-CSRFToken": self.csrf}
        if kind:
            headers["Content-Type"] = kind
        begun = time.monotonic()
        try:
            self.connection.request(method, path, body, headers)
            answer = self.connection.getresponse()
            status, text = answer.status, answer.read()
            if set_cookie := answer.getheader("Set-Cookie"):
                self.cookie = set_cookie.split(";")[0]
        except (OSError, http.client.HTTPException):
            self.connection.close()
            status, text = 0, b""
        self.answers.append(Answered(begun, time.monotonic() - begun, status, path))
        return status, text

    def send(self, method: str, path: str, body: dict[str, Any] | None = None) -> dict[str, Any]:
        status, text = self.ask(method, path, body)
        if status >= 400 or status == 0:
            raise RuntimeError(f"{method} {path}: {status} {text[:400]!r}")
        return dict(json.loads(text))


class Tablet:
    """A person at a job: opens its pages, or closes its next step and sees them again."""

    def __init__(self, line: Line, job: int) -> None:
        self.line, self.job = line, job
        bench = line.send("GET", f"/api/jobs/{job}/bench")
        done = {r["step"] for r in bench["records"]}
        steps = [PlanStep.model_validate(s) for s in bench["steps"]]
        self.left = [s for s in steps if s.ref not in done]

    def open_page(self) -> None:
        """Everything a page asks for."""
        for path in ("", "/bench", "/readings", "/verdict"):
            self.line.ask("GET", f"/api/jobs/{self.job}{path}")
        self.line.ask("GET", "/api/yard")

    def close_step(self) -> bool:
        """Close the next step, with what its page asks for afterwards. True when it was
        acknowledged.
        """
        step, line = self.left[0], self.line
        if self.job not in line.versions:
            status, text = line.ask("GET", f"/api/jobs/{self.job}")
            if status != 200:
                return False
            line.versions[self.job] = json.loads(text)["version"]
        body = {"version": line.versions[self.job], **answered(step)}
        status, text = line.ask("POST", f"/api/jobs/{self.job}/bench/steps", body)
        if status != 200:
            line.versions.pop(self.job)
            return False
        line.versions[self.job] = json.loads(text)["version"]
        self.left.pop(0)
        return True


def tablets(address: str, count: int) -> list[Tablet]:
    """So many tablets, each at a job of its own that stands at the bench."""
    lead = Line(address, "sunna")
    unit = next(u for u in lead.send("GET", "/api/yard")["units"] if u["tag"] == WORKED.tag)
    found = list[Tablet]()
    for number in range(count):
        line = Line(address, ("ivo", "pell")[number % 2])
        job = int(line.send("POST", "/api/jobs", {"unit_id": unit["id"]})["id"])
        walk(line, lead, job, WORKED, {"primary": 6.0, "chain_a": 9.0})
        found.append(Tablet(line, job))
    lead.close()
    return found


def busy(found: Sequence[Tablet], seconds: float, seed: int = 12) -> list[Answered]:
    """Let them all work for so long, each doing something every three seconds; all that was
    answered.
    """
    for tablet in found:
        tablet.line.answers.clear()
        tablet.line.connection.close()  # as a browser does with one that stood idle for long
    end = time.monotonic() + seconds

    def work(tablet: Tablet, rng: np.random.Generator) -> None:
        time.sleep(THINKS_S * rng.random())
        while (now := time.monotonic()) < end:
            if tablet.left and rng.random() < CLOSES:
                tablet.close_step()
            tablet.open_page()
            wait = THINKS_S * rng.uniform(0.7, 1.3) - (time.monotonic() - now)
            time.sleep(max(0.0, min(wait, end - time.monotonic())))

    seeds = np.random.default_rng(seed).spawn(len(found))
    all_at_once([lambda t=t, r=r: work(t, r) for t, r in zip(found, seeds, strict=True)])
    return [a for tablet in found for a in tablet.line.answers]


def all_at_once(works: Sequence[Callable[[], object]]) -> None:
    """Run each in a thread of its own until all have ended."""
    threads = [threading.Thread(target=work, daemon=True) for work in works]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
