"""The real application on a real database and the running stand-in box."""

import io
import os
import threading
import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any, BinaryIO

import pytest
from demo import walk
from demo.depot import PASSWORD
from demo.walk import PARKED, Visitor, answered, plunger_sheet, right_answer
from flask import Flask
from PIL import Image
from sqlalchemy import Engine, text
from sqlmodel import Session, select
from tests.support.cluster import ROOT, Cluster, cluster_of
from tests.support.depot import furnish

from flaneur.api.app import create_app
from flaneur.api.settings import Settings
from flaneur.core.errors import ErrorCode
from flaneur.core.faults.model import Faults
from flaneur.core.plan.steps import PlanStep
from flaneur.devices.box import BoxClient
from flaneur.formats.archive import new_key
from flaneur.simulation.box import make_box
from flaneur.simulation.server import Engines, Server
from flaneur.store.tables import BenchRecord
from flaneur.worker import make_queue

REFUSALS = (401, 403, 404, 409, 413, 422, 429, 502, 503, 507)
WORN = Faults(elongation_pct={"chain_b": 0.95}, liner_wear_mm={"guide_b": 1.0})


@dataclass
class House:
    """An application with two people and one unit, and what it stands on."""

    app: Flask
    engine: Engine
    owner: Engine
    box: Server
    unit_id: int

    def close(self) -> None:
        """Let go of everything it holds."""
        for live in self.app.config["LIVE"].all() if "LIVE" in self.app.config else ():
            live.stop()
        if self.app.config.get("QUEUE"):
            self.app.config["QUEUE"].close()
        self.engine.dispose()
        self.owner.dispose()

    def visitor(self, login: str = "ivo") -> Visitor:
        return Visitor(self.app.test_client(), login)

    def hide(self, faults: Faults) -> None:
        client = BoxClient("127.0.0.1", self.box.server_address[1])
        client.ask(
            {
                "do": "hide",
                "engine": "Ostrey Tansy",
                "unit": f"unit-{self.unit_id}",
                "faults": faults.model_dump(),
            }
        )


def key_file(depot: str) -> Path:
    """The signing key of a made-up depot, the same all through a run."""
    key = ROOT / ".run" / f"test-key-{depot}-{os.getpid()}.pem"
    if not key.exists():
        key.write_text(new_key(), encoding="ascii")
    return key


def build(url: str, box: Server, has_unit: bool = True, **settings: Any) -> House:
    """Set up an application; without a unit its database holds nothing but people."""
    house = open_house(url, box, **settings)
    house.unit_id = furnish(house.owner, has_unit)
    return house


def open_house(url: str, box: Server, **settings: Any) -> House:
    """An application on a database as it is."""
    port = box.server_address[1]
    plain = {
        "signing_key_file": str(key_file("saltmere")),
        "depot": "Saltmere Island Fleet Depot",
        "job_prefix": "SI",
    }
    app = create_app(
        Settings(database_url=url, secret="test", box_port=port, **{**plain, **settings})
    )
    return House(app, app.config["ENGINE"], cluster_of(url).owner_of(url), box, 0)


def at_work(url: str, box: Server) -> Iterator[House]:
    """A house whose one engine is worn, gone with its database afterwards."""
    found = open_house(url, box)
    found.unit_id = 1
    found.hide(WORN)
    yield found
    found.close()
    cluster_of(url).drop(url)


@pytest.fixture
def house(cluster: Cluster, furnished: str, box: Server) -> Iterator[House]:
    yield from at_work(cluster.clone(furnished), box)


@pytest.fixture
def visitor(house: House) -> Visitor:
    return house.visitor()


@pytest.fixture
def job(house: House, visitor: Visitor) -> int:
    return int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])


def capture(visitor: Visitor, job: int, phase: str = "before") -> dict[str, Any]:
    return visitor.change(
        job, "POST", "/captures/box", {"phase": phase, "phasers": PARKED, "seconds": 2}
    )


def begin(visitor: Visitor, job: int) -> None:
    """Start on the bench, with the owner's yes and a lead's go."""
    lead = Visitor(visitor.client.application.test_client(), "sunna")
    walk.begin(visitor, lead, job)


def work_bench(
    visitor: Visitor,
    job: int,
    scope: list[str],
    ways: tuple[str, ...] = (),
    first: Callable[[Visitor, int], None] = lambda *_: None,
) -> None:
    """Plan ``scope`` and close every step, all of it right; ``first`` comes before the steps."""
    visitor.change(job, "PUT", "/plan", {"scope": scope, "ways": list(ways)})
    begin(visitor, job)
    first(visitor, job)
    for raw in visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]:
        step = PlanStep.model_validate(raw)
        body = answered(step)
        assert visitor.change(job, "POST", "/bench/steps", body)["closed"]


def right(step: PlanStep) -> list[str]:
    return [right_answer(a) for a in step.asked]


def turn_by_hand(visitor: Visitor, job: int, **change: Any) -> None:
    proof = visitor.send("GET", f"/api/jobs/{job}/proof")
    good = {
        "turns": "2",
        "hard_stop": False,
        "marks": dict.fromkeys(proof["mark_checks"], True),
        "pins_out": proof["pins_in"],
    }
    visitor.change(job, "PUT", "/proof/hands", {**good, **change})


def refusal(
    visitor: Visitor, method: str, path: str, body: dict[str, Any] | None = None
) -> tuple[int, dict[str, Any]]:
    """Status and error of a request that must be refused in words: never broken, never another
    way than refusals are made.
    """
    answer = visitor.client.open(
        path, method=method, json=body, headers={"X-CSRFToken": visitor.csrf}
    )
    assert answer.status_code in REFUSALS, answer.text
    error = answer.get_json()
    assert error["message"]
    assert error["code"] != ErrorCode.BROKEN
    return answer.status_code, error


def version_of(visitor: Visitor, job: int) -> int:
    return int(visitor.send("GET", f"/api/jobs/{job}")["version"])


def upload(visitor: Visitor, job: int, path: Path, phase: str = "before") -> Any:
    """Drop a file into a job's readings."""
    with path.open("rb") as file:
        return send_file(visitor, f"/api/jobs/{job}/captures/file?phase={phase}", file, path.name)


def send_file(visitor: Visitor, path: str, content: BinaryIO, name: str) -> Any:
    """Post a file as a page does; what the client spooled to disk for it is closed."""
    answer = visitor.client.post(
        path, data={"file": (content, name)}, headers={"X-CSRFToken": visitor.csrf}
    )
    answer.request.environ["wsgi.input"].close()
    return answer


def work_queue(visitor: Visitor) -> None:
    """Let a worker do all that waits."""
    config = visitor.client.application.config
    queue = make_queue(config["SETTINGS"].database_url, config["ENGINE"])
    queue.run_worker(
        wait=False, install_signal_handlers=False, listen_notify=False, delete_jobs="always"
    )


def bring(visitor: Visitor, job: int, path: Path, phase: str = "before") -> dict[str, Any]:
    """Drop a file in, let a worker decode it, and say what became of it."""
    answer = upload(visitor, job, path, phase)
    assert answer.status_code == 200, answer.text
    work_queue(visitor)
    return file_state(visitor, job, answer.get_json()["id"])


def file_state(visitor: Visitor, job: int, incoming: int) -> dict[str, Any]:
    return next(
        f for f in visitor.send("GET", f"/api/jobs/{job}/incoming")["files"] if f["id"] == incoming
    )


def lay(visitor: Visitor, job: int, piece: str, place: str, count: int) -> Any:
    visitor.versions.pop(job, None)
    body = {"piece": piece, "place": place, "count": count}
    return visitor.send("POST", f"/api/jobs/{job}/bench/inside", body)


def picture(kind: str = "JPEG", size: tuple[int, int] = (3000, 1500)) -> io.BytesIO:
    out = io.BytesIO()
    Image.new("RGB", size, (120, 90, 60)).save(out, kind)
    out.seek(0)
    return out


def photographed(visitor: Visitor, job: int, step: str, content: BinaryIO | None = None) -> Any:
    visitor.versions.pop(job, None)
    path = f"/api/jobs/{job}/bench/photos?step={step}&caption=before"
    return send_file(visitor, path, content or picture(), "step.jpg")


def asked(visitor: Visitor, job: int, step: str) -> str:
    """The path of a second look's link."""
    visitor.versions.pop(job, None)
    body = {"step": step, "question": "Does the painted link stand on the dot?"}
    return str(visitor.send("POST", f"/api/jobs/{job}/bench/looks", body)["path"])


def handed_on(visitor: Visitor, job: int) -> None:
    """All that hands do beside the steps: laid in and out, photographed, asked, handed over."""
    step = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"][0]["ref"]
    lay(visitor, job, "rag", "chain case", 2)
    lay(visitor, job, "rag", "chain case", -2)
    assert photographed(visitor, job, step).status_code == 200
    asked(visitor, job, step)
    visitor.send("POST", f"/api/jobs/{job}/bench/shift", {"note": "Oil pan is drained."})
    visitor.send("POST", f"/api/jobs/{job}/bench/shift/take", {"secret": PASSWORD})


SET_B = ["tensioner_b", "arm_b", "chain_b_part", "guide_b"]


def released(
    visitor: Visitor,
    job: int,
    scope: list[str] = SET_B,
    first: Callable[[Visitor, int], None] = lambda *_: None,
) -> None:
    capture(visitor, job)
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_b", "24 mm"))
    work_bench(visitor, job, scope, first=first)
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    visitor.change(job, "POST", "/proof/release")


def signed_job(house: House) -> int:
    """A job walked from complaint to signature."""
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    laid_out = {"links": "40", "length": "323.5 mm", "pull": "100 N", "uncertainty": "0.1 mm"}
    sheet = {"kind": "chain_length", "part": "chain_b", "fields": laid_out, "instrument": "caliper"}
    visitor.change(job, "POST", "/readings/worksheet", sheet)
    released(visitor, job, first=handed_on)
    house.visitor("sunna").change(
        job, "POST", "/handover/sign", {"password": PASSWORD, "left_over": "Water pump next time."}
    )
    return job


@pytest.fixture(scope="session")
def signed_database(cluster: Cluster, tmp_path_factory: pytest.TempPathFactory) -> str:
    """The name of a database that holds one signed job, made once; tests get clones of it."""
    engines = Engines(ROOT / "engines", tmp_path_factory.mktemp("signing"))
    with make_box(("127.0.0.1", 0), engines) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        url = cluster.new_database()
        found = build(url, server)
        found.hide(WORN)
        signed_job(found)
        found.close()
        server.shutdown()
    return url.rsplit("/", 1)[1]


@pytest.fixture
def signed_house(cluster: Cluster, signed_database: str, box: Server) -> Iterator[House]:
    """A house of its own in which job 1 is signed."""
    yield from at_work(cluster.clone(signed_database), box)


def archive_of(visitor: Visitor, job: int) -> dict:
    return visitor.client.get(f"/api/jobs/{job}/archive.json").get_json()


def bring_in(visitor: Visitor, content: bytes) -> tuple[int, dict]:
    answer = send_file(visitor, "/api/import", io.BytesIO(content), "job.json")
    return answer.status_code, answer.get_json()


def a_tooth_was_left(house: House, job: int) -> None:
    """As older jobs may have it: an intake cam recorded one tooth late, and left so."""
    with Session(house.owner) as session:
        row = session.exec(
            select(BenchRecord).where(
                BenchRecord.job_id == job, BenchRecord.step == "fit:chain_b_part"
            )
        ).one()
        row.seen = [
            {**s, "teeth": 1, "ok": False} if s["contact"] == "chain_b/cam_b_in" else s
            for s in row.seen
        ]
        row.right, row.departure = False, "left for the test"
        session.add(row)
        session.commit()


def until(look: Any, seconds: float = 15) -> Any:
    """Ask again until the answer is truthy."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if found := look():
            return found
        time.sleep(0.1)
    raise AssertionError("it never came")


def send_photo(visitor: Visitor, job: int, reading: int, content: io.BytesIO, name: str) -> Any:
    return send_file(visitor, f"/api/jobs/{job}/readings/{reading}/photos", content, name)


def bend(house: House, table: str, statement: str) -> None:
    """What somebody can do who owns the database and takes its guards off."""
    unlock = f"ALTER TABLE {table} DISABLE TRIGGER USER"
    with house.owner.begin() as connection:
        connection.execute(text(unlock))
        connection.execute(text(statement))
        connection.execute(text(unlock.replace("DISABLE", "ENABLE")))
