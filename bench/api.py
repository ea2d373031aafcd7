"""Every operation of the OpenAPI document with made-up requests, as each role: no 5xx, and nothing
the document does not say.

Requests come from Schemathesis, good ones and bad ones; in half of them the ids and the version are
those of real jobs, so that they get past the door.
"""

import time
from collections import Counter
from collections.abc import Iterator
from typing import Any

import requests
import schemathesis
from demo.depot import PASSWORD
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.core.failures import FailureGroup
from schemathesis.specs.openapi import checks as openapi

from bench.figure import Figure, at_least, at_most
from bench.house import Served, served

CHECKS = [
    not_a_server_error,
    openapi.status_code_conformance,
    openapi.content_type_conformance,
    openapi.response_schema_conformance,
    openapi.allow_header_conformance,
]
GOOD, BAD = 24, 12
SHARE = {"nobody": (8, 0), "technician": (2, 0), "lead": (2, 1)}  # one of so many, from this one on
SLOW = (
    "live.connect",
    "captures.capture_from_box",
    "logs.sweep",
    "books.touch",
    "books.clearance",
    "books.loose",
    "face.worn_face",
)
# What would end a person's own session, or lock those out who ask here: tests look at these.
NOT_ASKED = ("session.sign_out", "session.change_password", "people.")
SHARED = ("units.", "shop.")  # what others look at on a product that is not of this bench alone
ROLES = {"nobody": None, "technician": "pell", "lead": "sunna"}


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with served() as found:
        yield from measure(found, is_tiny)


def measure(found: Served, is_tiny: bool = False) -> Iterator[Figure]:
    """Figures from a running product. A small look sends one request each, as a technician or a
    lead, and some of them as nobody.
    """
    document = requests.get(f"{found.address}/api/openapi.json", timeout=30).json()
    schema = schemathesis.openapi.from_dict(document)
    sent: Counter[str] = Counter()
    said: Counter[str] = Counter()
    for role, login in ROLES.items():
        person = _sign_in(found.address, login)
        for number, result in enumerate(schema.get_all_operations()):
            every, first = SHARE[role]
            if is_tiny and number % every != first:
                continue
            name = str(result.ok().definition.raw["operationId"])
            if name.startswith((*NOT_ASKED, *SHARED) if is_tiny else NOT_ASKED):
                continue
            for mode, count in ((GenerationMode.POSITIVE, GOOD), (GenerationMode.NEGATIVE, BAD)):
                count = 1 if is_tiny else 2 if name in SLOW else count
                _try(result.ok(), mode, count, found.address, person, sent, said)
    bad = {words: n for words, n in said.items() if n}
    for words, n in sorted(bad.items()):
        print(f"  {n} × {words}", flush=True)
    total = sum(sent.values())
    served_badly = sum(n for words, n in bad.items() if "Server error" in words)
    yield at_least(
        "api", f"requests sent to {len(sent)} operations as {len(ROLES)} roles", total, 1
    )
    yield at_most("api", "answers of 5xx", served_badly, 0)
    yield at_most("api", "answers the document does not say", sum(bad.values()) - served_badly, 0)


def _sign_in(address: str, login: str | None) -> requests.Session:
    session = requests.Session()
    token = session.get(f"{address}/api/session", timeout=30).json()["csrf"]
    if login is not None:
        body = {"login": login, "password": PASSWORD}
        while True:
            answer = session.post(
                f"{address}/api/session", json=body, headers={"X-CSRFToken": token}, timeout=30
            )
            if answer.status_code != 429:  # made-up sign-ins have used up this minute's tries
                break
            time.sleep(int(answer.headers["Retry-After"]) + 1)
        token = answer.json()["csrf"]
    session.headers["X-CSRFToken"] = token
    return session


def _try(
    operation: Any,
    mode: GenerationMode,
    count: int,
    address: str,
    person: requests.Session,
    sent: Counter[str],
    said: Counter[str],
) -> None:
    """Send some requests to one operation and count what goes wrong; nothing is tried again to make
    it smaller.
    """
    name = f"{operation.method.upper()} {operation.path}"
    try:
        strategy = operation.as_strategy(generation_mode=mode)
    except Exception as error:
        if mode is GenerationMode.NEGATIVE:
            return  # nothing about it can be wrong
        raise error

    @given(case=strategy, is_real=st.booleans(), job=st.integers(1, 6))
    @settings(
        max_examples=count,
        deadline=None,
        derandomize=True,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    def one(case: Any, is_real: bool, job: int) -> None:
        if is_real:
            _made_real(case, job, address, person)
        session = requests.Session()  # a new one each time: signing out must not end the rest
        session.cookies.update(person.cookies)
        session.headers["X-CSRFToken"] = person.headers["X-CSRFToken"]
        sent[name] += 1
        try:
            case.call_and_validate(base_url=address, session=session, checks=CHECKS, timeout=120)
        except FailureGroup as group:
            said.update(
                f"{name}: {type(f).__name__}: {f.title}: {' '.join(str(f.message).split())[:160]}"
                for f in group.exceptions
            )
        except requests.RequestException as error:
            said[f"{name}: Server error: {type(error).__name__}"] += 1

    try:
        one()
    except Exception as error:
        if mode is GenerationMode.NEGATIVE and "Unsatisfiable" in type(error).__name__:
            return
        raise


def _made_real(case: Any, job: int, address: str, person: requests.Session) -> None:
    """Ids that are there and the version the job is at, so that the request gets as far as it
    can.
    """
    for name in case.path_parameters or {}:
        if name.endswith("_id"):
            case.path_parameters[name] = job
    wants_version = isinstance(case.body, dict) and "version" in case.body
    if wants_version:
        answer = person.get(f"{address}/api/jobs/{job}", timeout=60)
        if answer.status_code == 200:
            case.body["version"] = answer.json()["version"]
