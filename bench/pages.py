"""How long the pages of a job take at the server, and its screens in a browser: the demo depot,
warm, one person.
"""

import time
from collections.abc import Iterator

import numpy as np
import requests
from demo.depot import PASSWORD

from bench import screens
from bench.figure import Figure, at_most, machine_factor
from bench.house import served

PAGE_MS, HEAD_MS, FIRST_MS, ADDED_MS = 60.0, 25.0, 400.0, 20.0
LOOKS = 7
UNFIT = 422  # the answer to what cannot be asked of a job yet


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with served() as found:
        yield from measure(found.address, 1 if is_tiny else LOOKS, 2 if is_tiny else None)
        yield from screens.measure(found.address, 1 if is_tiny else LOOKS)


def measure(address: str, looks: int, most: int | None = None) -> Iterator[Figure]:
    """Figures from a running product, of its first ``most`` jobs or of all; bars in ms × the
    machine's factor.
    """
    person = _signed_in(address, "ivo")
    jobs = [int(j["id"]) for j in person.get(f"{address}/api/yard", timeout=60).json()["jobs"]][
        :most
    ]
    factors, lead = [machine_factor()], _signed_in(address, "sunna")
    first = 1000 * _took(person, f"{address}/api/jobs/{jobs[0]}/verdict")
    document = person.get(f"{address}/api/openapi.json", timeout=60).json()
    pages = [
        path
        for path, ways in document["paths"].items()
        if "get" in ways and path.count("{") == 1 and path.startswith("/api/jobs/{job_id}")
    ]
    files = (".pdf", ".html", "/archive.json", "/archive.zip", "/live", "/look")
    pages = [page for page in pages if not page.endswith(files)]
    middle: dict[str, float] = {}
    added: list[float] = []
    for job in jobs:
        for page in pages:
            url = address + page.replace("{job_id}", str(job))
            times = [_took(person, url) for _ in range(looks + 1)][1:]
            middle[page] = max(middle.get(page, 0.0), 1000 * float(np.median(times)))
        # Known by now, but not yet given to a lead: what is left is what the server adds.
        added.append(1000 * _took(lead, f"{address}/api/jobs/{job}/verdict"))
        factors.append(machine_factor())
    for page, took in sorted(middle.items(), key=lambda item: -item[1])[:3]:
        print(f"  {took:7.1f} ms  {page}", flush=True)
    factor = float(np.median(factors))
    head = middle.pop("/api/jobs/{job_id}")
    yield Figure("pages", "calibration factor of this machine, for information", factor, 0, True)
    yield at_most(
        "pages",
        f"slowest of {len(middle)} pages of a job, ms",
        max(middle.values()),
        PAGE_MS * factor,
    )
    yield at_most("pages", "head of a job, ms", head, HEAD_MS * factor)
    yield at_most("pages", "first verdict after start, ms", first, FIRST_MS * factor)
    yield at_most(
        "pages", "added to a verdict by giving it, ms", float(np.median(added)), ADDED_MS * factor
    )


def _signed_in(address: str, login: str) -> requests.Session:
    person = requests.Session()
    person.headers["X-CSRFToken"] = person.get(f"{address}/api/session", timeout=30).json()["csrf"]
    person.post(
        f"{address}/api/session", json={"login": login, "password": PASSWORD}, timeout=30
    ).raise_for_status()
    return person


def _took(person: requests.Session, url: str) -> float:
    """Seconds until a page is there; one that a job has not come to yet says so, and counts too."""
    begun = time.perf_counter()
    answer = person.get(url, timeout=60)
    if answer.status_code != UNFIT:
        answer.raise_for_status()
    return time.perf_counter() - begun
