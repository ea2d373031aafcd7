"""Bolts by the torque–angle wrench, from the running stand-in to the record."""

import json
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from demo.walk import Visitor, answered
from tests.api.conftest import House, refusal
from tests.api.test_once import close_until, steps
from tests.support.cluster import ROOT

from flaneur.core.errors import DeviceError
from flaneur.core.plan.steps import PlanStep
from flaneur.devices.wrench import WrenchClient
from flaneur.simulation.server import Engines, Server
from flaneur.simulation.wrench import make_wrench

__all__ = ["steps"]


@pytest.fixture
def wrench(house: House, tmp_path: Path) -> Iterator[WrenchClient]:
    with make_wrench(("127.0.0.1", 0), Engines(ROOT / "engines", tmp_path)) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield client_of(house, server)
        server.shutdown()


def client_of(house: House, server: Server) -> WrenchClient:
    port = int(server.server_address[1])
    settings = house.app.config["SETTINGS"]
    house.app.config["SETTINGS"] = settings.model_copy(update={"wrench_port": port})
    return WrenchClient("127.0.0.1", port)


def taken(client: WrenchClient, step: PlanStep, bolt: int, fault: str | None = None) -> str:
    """A bolt's whole trace as CSV, as fast as it goes."""
    if fault:
        client.ask({"do": "next", "fault": fault, "size": 1.6})
    fastener = fastener_of(step)
    stages = [a.stage for a in step.asked if a.stage is not None]
    rows = ["time (s),angle (deg),torque (Nm)"]
    for part in client.tighten("unit-1", f"{fastener} {bolt}", stages, pace=200):
        columns = zip(part["time_s"], part["angle_deg"], part["torque_nm"], strict=True)
        rows += [f"{t},{a},{q}" for t, a, q in columns]
    return "\n".join(rows) + "\n"


def fastener_of(step: PlanStep) -> str:
    return next(a.fastener or "" for a in step.asked if a.stage is not None)


def keep(visitor: Visitor, job: int, step: PlanStep, bolt: int, csv: str) -> dict[str, Any]:
    told = {"step": step.ref, "answered": 0, "fastener": fastener_of(step), "bolt": bolt}
    return visitor.send("POST", f"/api/jobs/{job}/bench/traces", {**told, "csv": csv})


def test_a_bolt_that_is_not_right_keeps_its_step_open(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep], wrench: WrenchClient
) -> None:
    step = close_until(visitor, job, steps, "torque:front_cover")
    for bolt in (1, 2, 3):
        found = keep(visitor, job, step, bolt, taken(wrench, step, bolt))["traces"]
    assert [t["bolt"] for t in found] == [1, 2, 3]
    assert all(t["judged"]["sound"] for t in found), found
    bad = keep(visitor, job, step, 4, taken(wrench, step, 4, "cross_threaded"))["traces"][3]
    assert [f["code"] for f in bad["judged"]["faults"]] == ["cross_threaded"]
    version = visitor.send("GET", f"/api/jobs/{job}")["version"]
    path = f"/api/jobs/{job}/bench/steps"
    status, error = refusal(visitor, "POST", path, {**answered(step), "version": version})
    assert status == 422
    assert "bolt 4" in error["read"]
    assert error["code"] == "step_held"
    again = keep(visitor, job, step, 4, taken(wrench, step, 4))["traces"]
    assert [t["judged"]["sound"] for t in again] == [True] * 4, "the new one stands for it"
    file = visitor.client.get(f"/api/jobs/{job}/bench/traces/{again[0]['id']}/file.csv")
    assert file.text.startswith("# flaneur-trace/1\n")
    shown = visitor.send("GET", f"/api/jobs/{job}/bench/traces/{step.ref}")["traces"]
    assert [t["bolt"] for t in shown] == [1, 2, 3, 4]
    keep(visitor, job, step, 5, taken(wrench, step, 5, "cross_threaded"))
    lead = house.visitor("sunna")
    left = {**answered(step), "departure": "thread repaired next week"}
    assert lead.change(job, "POST", "/bench/steps", left)["closed"]
    record = lead.send("GET", f"/api/jobs/{job}/bench")["records"][-1]
    assert (record["is_right"], record["departure"]) == (False, "thread repaired next week")
    note = lead.send("GET", f"/api/jobs/{job}")["notebook"][-1]["words"]
    assert "By the wrench, 1 bolt not right" in note
    assert visitor.send("GET", f"/api/jobs/{job}/bench/traces/{step.ref}")["traces"] == []


def test_what_the_wrench_measures_comes_line_by_line(
    visitor: Visitor, job: int, steps: list[PlanStep], wrench: WrenchClient
) -> None:
    step = next(s for s in steps if s.ref == "torque:arm_a")
    path = f"/api/jobs/{job}/bench/tighten/{step.ref}/{fastener_of(step)}"
    answer = visitor.client.get(f"{path}/1")
    lines = [json.loads(line) for line in answer.text.splitlines()]
    assert lines[-1] == {"end": True}
    times = [t for line in lines[:-1] for t in line["time_s"]]
    assert times == sorted(times)
    assert len(times) / (times[-1] - times[0]) >= 100, "samples a second"
    assert max(q for line in lines[:-1] for q in line["torque_nm"]) > 20
    assert refusal(visitor, "GET", f"{path}/2")[0] == 422, "there is one"
    assert refusal(visitor, "GET", f"/api/jobs/{job}/bench/tighten/op:cure/x/1")[0] == 422


def test_a_trace_that_is_none_is_refused_whole(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    step = close_until(visitor, job, steps, "torque:front_cover")
    path = f"/api/jobs/{job}/bench/traces"
    told = {"step": step.ref, "answered": 0, "fastener": fastener_of(step), "bolt": 1}
    rows = "".join(f"{i / 100},{i},{i / 10}\n" for i in range(60))
    whole = f"time (s),angle (deg),torque (Nm)\n{rows}"
    back = whole.replace("\n0.3,", "\n0.1,")
    for csv, said in (("a,b\n1,2\n", "no column"), (back, "clock of bolt 1 jumps back")):
        status, error = refusal(visitor, "POST", path, {**told, "csv": csv})
        assert status == 422
        assert said in error["message"]
    assert refusal(visitor, "POST", path, {**told, "bolt": 15, "csv": whole})[0] == 422
    assert refusal(visitor, "POST", path, {**told, "fastener": "no_such", "csv": whole})[0] == 422
    stale = {**told, "answered": 3, "csv": whole}
    assert refusal(visitor, "POST", path, stale)[1]["code"] == "step_answered"
    assert visitor.send("GET", f"{path}/{step.ref}")["traces"] == []
    settings = house.app.config["SETTINGS"]
    house.app.config["SETTINGS"] = settings.model_copy(update={"wrench_port": 1})
    away = f"/api/jobs/{job}/bench/tighten/{step.ref}/{fastener_of(step)}/1"
    status, error = refusal(visitor, "GET", away)
    assert (status, error["message"]) == (502, "The torque–angle wrench does not answer.")


def test_the_wrench_measures_nothing_outside_its_range(wrench: WrenchClient) -> None:
    answer = wrench.ask({"do": "hello"})
    assert answer["rate_hz"] >= 100
    with pytest.raises(DeviceError, match="does not know"):
        wrench.ask({"do": "dance"})
    for stages in ([{"kind": "torque", "value": 900, "tolerance": 5}], [{"kind": "angle"}]):
        with pytest.raises(DeviceError, match="cannot"):
            wrench.ask({"do": "tighten", "name": "bolt", "stages": stages})
