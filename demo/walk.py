"""Walking demo jobs through the API as a person would."""

import logging
from datetime import UTC, datetime, timedelta
from typing import Any

from flask.testing import FlaskClient

from demo.depot import JOBS, PASSWORD, UNITS, DemoJob
from demo.stores import lists
from flaneur.api.app import create_app
from flaneur.api.settings import Settings
from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.steps import Asked, AskedKind, PlanStep
from flaneur.devices.box import BoxClient
from flaneur.simulation.placement import placed_state

log = logging.getLogger("flaneur.demo")


class Visitor:
    """A signed-in client that walks a job through the API as a person would."""

    def __init__(self, client: FlaskClient, login: str) -> None:
        self.client = client
        self.versions: dict[int, int] = {}
        self.csrf = client.get("/api/session").json["csrf"]
        self.csrf = self.send("POST", "/api/session", {"login": login, "password": PASSWORD})[
            "csrf"
        ]

    def send(self, method: str, path: str, body: dict[str, Any] | None = None) -> dict[str, Any]:
        """Send JSON and return the answer; RuntimeError when it is refused."""
        answer = self.client.open(
            path, method=method, json=body, headers={"X-CSRFToken": self.csrf}
        )
        if answer.status_code >= 400:
            raise RuntimeError(f"{method} {path}: {answer.status_code} {answer.text[:400]}")
        return answer.get_json()

    def change(
        self, job: int, method: str, path: str, body: dict[str, Any] | None = None
    ) -> dict[str, Any]:
        """Change a job, keeping count of its version."""
        if job not in self.versions:
            self.versions[job] = self.send("GET", f"/api/jobs/{job}")["version"]
        answer = self.send(
            method, f"/api/jobs/{job}{path}", {**(body or {}), "version": self.versions[job]}
        )
        self.versions[job] = answer["version"]
        return answer


def right_answer(asked: Asked) -> str:
    """What a careful technician would enter where all is well."""
    if asked.stage is not None:
        return f"{asked.stage.value:g} {'Nm' if asked.stage.kind == 'torque' else 'deg'}"
    if asked.kind is AskedKind.MEASURE:
        low, high = asked.low or 0.0, asked.high or 6.0
        return f"{(low + high) / 2:g} {asked.unit}"
    return asked.right[0] if asked.right else str(asked.expected)


def answered(step: PlanStep) -> dict[str, Any]:
    """A step answered right; what it waits for was begun long enough ago."""
    began = datetime.now(UTC) - timedelta(minutes=step.waiting)
    return {
        "step": step.ref,
        "answers": [right_answer(a) for a in step.asked],
        "began": began.isoformat() if step.waiting else None,
    }


def plunger_sheet(chain: str, value: str, uncertainty: str = "0.2 mm") -> dict[str, Any]:
    """A filled-in worksheet for a plunger's extension."""
    fields = {"method": "direct", "out": value, "uncertainty": uncertainty}
    return {"kind": "plunger", "part": chain, "fields": fields, "instrument": "depth gauge"}


LINKS = 40  # of a chain, laid out and pulled straight, to measure it


def lengths_of(book: EngineBook, demo: DemoJob) -> dict[str, float]:
    """What so many links of every chain that a job takes off measure, millimetres."""
    worn = next(u.faults.elongation_pct for u in UNITS if u.tag == demo.tag)
    parts = [book.components[c].part for c in demo.scope]
    return {
        key: LINKS * chain.pitch_mm * (1 + worn.get(key, 0.0) / 100)
        for key, chain in book.chains.items()
        if key in parts
    }


def length_sheet(chain: str, mm: float) -> dict[str, Any]:
    """A filled-in worksheet for a chain that is off."""
    fields = {"links": str(LINKS), "length": f"{mm:.2f} mm", "pull": "100 N"}
    fields["uncertainty"] = "0.1 mm"
    return {"kind": "chain_length", "part": chain, "fields": fields, "instrument": "caliper"}


PARKED = {"phaser_a": {"state": "parked"}, "phaser_b": {"state": "parked"}}


def decide(lead: Visitor, job: int) -> None:
    """The lead takes what is advised, and it is planned."""
    asked = {"school": {}, "left_out": [], "changed": {}}
    found = lead.send("POST", f"/api/jobs/{job}/advice", asked)
    options = found["advice"]["decision"]
    advised = next(option for option in options if option["is_advised"])
    lead.change(job, "POST", "/decision", {"key": advised["key"], "school": {}, "reason": ""})
    scope, kept = advised["scope"], advised["kept"]
    lead.change(job, "PUT", "/plan", {"scope": scope, "kept": kept})


def fill_stores(lead: Visitor) -> None:
    """The lead types the shop's lists in."""
    now = {
        found["kind"]: found["fingerprint"] for found in lead.send("GET", "/api/stores")["lists"]
    }
    for kind, rows in lists(datetime.now(UTC).date()).items():
        body = {"fingerprint": now[str(kind)], "rows": rows}
        lead.send("PUT", f"/api/stores/{kind}", body)


def begin(visitor: Visitor, lead: Visitor, job: int, owner: str = "Harbour office") -> None:
    """The owner says yes to the estimate, a lead gives the go past the points of no return, and the
    bench starts.
    """
    agree(visitor, job, owner)
    if visitor.send("GET", f"/api/jobs/{job}/plan/go")["needs_go"]:
        lead.versions.pop(job, None)  # others changed the job since the lead looked
        visitor.versions[job] = lead.change(job, "POST", "/plan/go")["version"]
        lead.versions.pop(job)
    visitor.change(job, "POST", "/plan/start")


def agree(visitor: Visitor, job: int, owner: str = "Harbour office") -> None:
    """The owner says yes to the estimate of the plan that is kept."""
    page = visitor.send("GET", f"/api/jobs/{job}/plan/estimate")
    yes = {"owner": owner, "how": "telephone", "on": page["today"]}
    visitor.change(job, "POST", "/plan/agreed", {**yes, "most": page["estimate"]["high_price"]})


def walk(
    visitor: Visitor,
    lead: Visitor,
    job: int,
    demo: DemoJob,
    plunger_mm: dict[str, float],
    lengths_mm: dict[str, float] | None = None,
) -> None:
    """Take a job as far as ``demo.until``; ``lengths_mm`` of chains once they are off."""
    visitor.change(
        job,
        "PUT",
        "/intake",
        {
            "complaint": demo.complaint,
            "when": demo.when,
            "where": demo.where,
            "standing_hours": demo.standing,
            "oil_state": demo.oil,
            "accessories": "excluded",
            "rattle": demo.rattle,
            "codes": demo.codes,
            "hours": next(f"{u.hours:g} h" for u in UNITS if u.tag == demo.tag),
        },
    )
    if demo.until == "readings":
        return
    visitor.change(job, "POST", "/captures/box", {"phasers": PARKED})
    for chain, extension in plunger_mm.items():
        visitor.change(
            job, "POST", "/readings/worksheet", plunger_sheet(chain, f"{extension:.1f} mm")
        )
    if demo.until == "verdict":
        return
    if demo.until == "plan":
        decide(lead, job)
        return
    visitor.change(job, "PUT", "/plan", {"scope": list(demo.scope)})
    begin(visitor, lead, job)
    steps = [
        PlanStep.model_validate(s) for s in visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    ]
    for step in steps[: demo.steps]:
        visitor.change(job, "POST", "/bench/steps", answered(step))
    if demo.until == "bench":
        return
    for chain, mm in (lengths_mm or {}).items():
        visitor.change(job, "POST", "/readings/worksheet", length_sheet(chain, mm))
    if demo.until == "proof":
        return
    proof = visitor.send("GET", f"/api/jobs/{job}/proof")
    visitor.change(
        job,
        "PUT",
        "/proof/hands",
        {
            "turns": "2",
            "hard_stop": False,
            "marks": dict.fromkeys(proof["mark_checks"], True),
            "pins_out": proof["pins_in"],
        },
    )
    visitor.change(job, "POST", "/captures/box", {"phase": "after", "phasers": PARKED})
    visitor.change(job, "POST", "/proof/release")
    lead.change(
        job,
        "POST",
        "/handover/sign",
        {"password": PASSWORD, "left_over": "Water pump at its next service."},
    )


def walk_all(settings: Settings, books: dict[str, EngineBook], units: dict[str, int]) -> None:
    """Hide the units' faults in the stand-in box and take every demo job to its stage. ``units``
    maps tags to ids.
    """
    box = BoxClient(settings.box_host, settings.box_port)
    for unit in UNITS:
        box.ask(
            {
                "do": "hide",
                "engine": unit.engine,
                "unit": f"unit-{units[unit.tag]}",
                "faults": unit.faults.model_dump(),
            }
        )
    app = create_app(settings)
    visitor, lead = Visitor(app.test_client(), "ivo"), Visitor(app.test_client(), "sunna")
    fill_stores(lead)
    for demo in JOBS:
        job = visitor.send("POST", "/api/jobs", {"unit_id": units[demo.tag]})["id"]
        unit = next(u for u in UNITS if u.tag == demo.tag)
        book = books[unit.engine]
        plunger = placed_state(book, unit.faults).plunger_mm
        walk(visitor, lead, job, demo, plunger, lengths_of(book, demo))
        log.info("%s: job at %s", demo.tag, demo.until)
