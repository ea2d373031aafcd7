"""A kept capture looked at closely, the box live, sweeps, worksheets with photographs: through the
API.
"""

import io
import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from demo.walk import Visitor
from PIL import Image
from sqlmodel import select
from tests.api.conftest import (
    House,
    bring,
    capture,
    picture,
    refusal,
    send_file,
    send_photo,
    until,
    version_of,
)

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.formats.captures import from_parquet, read_capture
from flaneur.simulation import running
from flaneur.simulation.server import Server
from flaneur.store.blocks import FACTOR, load_capture, look
from flaneur.store.database import transaction
from flaneur.store.tables import CaptureRow


@pytest.fixture
def kept(visitor: Visitor, job: int) -> int:
    capture(visitor, job)
    return int(visitor.send("GET", f"/api/jobs/{job}/readings")["captures"][0]["id"])


def at(job: int, kept: int, rest: str = "") -> str:
    return f"/api/jobs/{job}/captures/{kept}{rest}"


def test_a_capture_tells_everything_it_knows(
    visitor: Visitor, job: int, kept: int, book: EngineBook
) -> None:
    detail = visitor.send("GET", at(job, kept))
    assert [c["cam"] for c in detail["cams"]] == book.cams
    cam = detail["cams"][2]
    assert len(cam["per_cycle_deg"]) == len(cam["cycle_s"]) == cam["cycles"]
    assert [e["expected_deg"] for e in cam["edges"]] == [
        e for vane in book.cam_wheel(cam["cam"]).vanes_deg for e in vane
    ]
    assert detail["capture"]["quality_verdict"].startswith("Clean")
    assert detail["fingerprint"]["is_clear"] is False


def test_windows_show_the_same_capture_at_every_width(
    house: House, visitor: Visitor, job: int, kept: int
) -> None:
    with transaction(house.engine) as session:
        row = session.exec(select(CaptureRow)).one()
        x = load_capture(session, row).channels["cam_a_in"]
        for start, stop, points in (
            (0, len(x), 300),
            (12_345, 61_234, 500),
            (40_000, 40_400, 900),
            (99_000, 100_000, 64),
        ):
            seen = look(session, row, start, stop, points)
            low, high = seen.low["cam_a_in"], seen.high["cam_a_in"]
            assert len(low) <= 2 * points
            assert float(low.min()) <= float(x[start:stop].min())
            assert float(high.max()) >= float(x[start:stop].max())
            assert float(low.min()) >= float(x[max(0, start - FACTOR**3) : stop + FACTOR**3].min())
    exact = visitor.send("GET", at(job, kept, "/window?start_s=0.8&stop_s=0.806&points=900"))
    assert exact["is_exact"]
    assert len(exact["times_s"]) == 301
    assert exact["channels"][1]["low_v"] == pytest.approx(
        [round(float(v), 4) for v in x[40_000:40_301]]
    )
    wide = visitor.send("GET", at(job, kept, "/window?start_s=0&stop_s=2&points=200"))
    assert not wide["is_exact"]
    cam = wide["channels"][3]
    assert len(cam["expected"]) == pytest.approx(len(cam["found_s"]), abs=2)
    assert np.median(np.diff(wide["theta_deg"]) / np.diff(wide["angle_s"])) == pytest.approx(
        4320, rel=0.05
    )
    assert refusal(visitor, "GET", at(job, kept, "/window?start_s=90&stop_s=91"))[0] == 422


def test_one_steps_from_edge_to_edge(visitor: Visitor, job: int, kept: int) -> None:
    first = visitor.send("GET", at(job, kept, "/edge?channel=cam_a_in&at_s=0.5&way=next"))
    second = visitor.send(
        "GET", at(job, kept, f"/edge?channel=cam_a_in&at_s={first['time_s']}&way=next")
    )
    back = visitor.send(
        "GET", at(job, kept, f"/edge?channel=cam_a_in&at_s={second['time_s']}&way=before")
    )
    assert 0.5 < first["time_s"] < second["time_s"]
    assert back["time_s"] == first["time_s"]
    assert 0 <= first["theta_deg"] < 720
    assert visitor.send("GET", at(job, kept, "/edge?channel=cam_a_in&at_s=99"))["time_s"] is None
    assert refusal(visitor, "GET", at(job, kept, "/edge?channel=nothing&at_s=0"))[0] == 404


def test_a_stretch_is_left_out_with_its_reason_and_taken_back(
    visitor: Visitor, job: int, kept: int
) -> None:
    before = visitor.send("GET", at(job, kept))["cams"][0]["cycles"]
    visitor.change(
        job,
        "POST",
        f"/captures/{kept}/left-out",
        {"start_s": 0.5, "stop_s": 1.2, "reason": "throttle was touched"},
    )
    detail = visitor.send("GET", at(job, kept))
    assert detail["cams"][0]["cycles"] < before - 3
    assert (detail["left_out"][0]["reason"], detail["left_out"][0]["by"]) == (
        "throttle was touched",
        "Ivo Tarnholt",
    )
    readings = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    assert sum(r["counts"] for r in readings) == 4
    assert {r["phaser_state"] for r in readings if r["part"] == "cam_a_in"} == {"parked"}
    assert "left out" in next(r["struck"] for r in readings if r["struck"])
    visitor.change(job, "POST", f"/captures/{kept}/taken-back", {"index": 0})
    assert visitor.send("GET", at(job, kept))["cams"][0]["cycles"] == before
    version = version_of(visitor, job)
    body = {"start_s": 1.0, "stop_s": 0.5, "reason": "backwards", "version": version}
    assert refusal(visitor, "POST", at(job, kept, "/left-out"), body)[0] == 422
    assert (
        refusal(visitor, "POST", at(job, kept, "/taken-back"), {"index": 5, "version": version})[0]
        == 422
    )


def test_two_captures_are_compared(house: House, visitor: Visitor, job: int, kept: int) -> None:
    house.hide(Faults(elongation_pct={"chain_b": 0.3}))
    capture(visitor, job)
    newer = visitor.send("GET", f"/api/jobs/{job}/readings")["captures"][1]["id"]
    changes = {
        c["cam"]: c for c in visitor.send("GET", at(job, newer, f"/against/{kept}"))["changes"]
    }
    assert changes["cam_b_ex"]["is_clear"]
    assert "earlier than before" in changes["cam_b_ex"]["words"]
    assert not changes["cam_a_ex"]["is_clear"]


@pytest.mark.parametrize("kind", ["csv", "wav", "parquet"])
def test_a_capture_leaves_and_comes_back(
    visitor: Visitor, job: int, kept: int, kind: str, tmp_path: Path
) -> None:
    answer = visitor.client.get(at(job, kept, f"/file.{kind}"))
    assert answer.status_code == 200
    path = tmp_path / f"again.{kind}"
    path.write_bytes(answer.data)
    assert read_capture(path).samples == 100_000
    assert bring(visitor, job, path)["state"] == "done"
    first, second = (
        visitor.send("GET", at(job, c["id"]))["cams"]
        for c in visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]
    )
    assert [c["deviation_deg"] for c in first] == pytest.approx(
        [c["deviation_deg"] for c in second], abs=2e-3
    )


def test_the_correlation_leaves_as_csv_and_json(visitor: Visitor, job: int, kept: int) -> None:
    rows = visitor.client.get(at(job, kept, "/correlation.csv")).text.splitlines()
    assert rows[0].startswith("cam,name,deviation_deg,stderr_deg")
    assert len(rows) == 5
    found = json.loads(visitor.client.get(at(job, kept, "/correlation.json")).text)
    assert found["format"] == "flaneur-correlation/1"
    assert float(rows[3].split(",")[-8]) == pytest.approx(found["table"][2]["deviation_deg"])
    assert visitor.client.get(at(job, kept, "/correlation.xls")).status_code == 404
    assert visitor.client.get(at(job, kept, "/file.exe")).status_code == 404


def test_a_cold_start_is_seen_to_settle(
    house: House, visitor: Visitor, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(running, "RATTLE_S", 6.0)  # a busy machine reads it late
    house.hide(Faults(cold_rattle_deg=6.0))
    visitor.send("POST", f"/api/jobs/{job}/live", {"cold": True})

    def settled() -> Any:
        live = visitor.send("GET", f"/api/jobs/{job}/live")
        history = {c["cam"]: c["history_deg"] for c in live["cams"]}.get("cam_a_ex", [])
        return history and history[0] > history[-1] + 0.5 and live

    assert until(settled)["state"] == "live"


def test_a_first_start_is_watched_and_written_down(visitor: Visitor, job: int) -> None:
    asked = {"rattle_s": 1.2, "pressure": "320 kPa", "pressure_s": 3.0, "standing": "14 h"}
    path = f"/api/jobs/{job}/live/first-start"
    assert refusal(visitor, "POST", path, {**asked, "version": 1})[0] == 409, "no box is connected"
    visitor.send("POST", f"/api/jobs/{job}/live", {"cold": True, "phase": "after"})
    first = until(lambda: (at := visitor.send("GET", f"/api/jobs/{job}/live"))["cams"] and at)
    for wrong in ({"standing": "lots"}, {"pressure": "much"}):
        body = {**asked, **wrong, "version": version_of(visitor, job)}
        assert refusal(visitor, "POST", path, body)[0] == 422, "nothing typed is passed over"
    visitor.versions.pop(job, None)
    visitor.change(job, "POST", "/live/first-start", asked)
    visitor.send("POST", f"/api/jobs/{job}/live/stop", {})
    assert visitor.send("GET", f"/api/jobs/{job}/live")["look"] is None
    again = visitor.send("POST", f"/api/jobs/{job}/live", {"cold": True, "phase": "after"})
    assert again["look"] not in (None, first["look"]), "presses of one start are of no other"
    visitor.send("POST", f"/api/jobs/{job}/live/stop", {})
    heard, oil = visitor.send("GET", f"/api/jobs/{job}/proof")["first_start"]
    assert "Noise at cold start for 1.2 s after 14 h of standing" in heard
    assert "First start: " in heard
    assert "oil pressure after 3 s" in heard
    assert "320 kPa" in oil
    rows = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    assert {r["phase"] for r in rows if r["kind"] in ("noise", "oil")} == {"after"}
    page = visitor.client.get(f"/api/jobs/{job}/report.html").text
    assert "oil pressure after 3 s" in page


def test_the_box_live_obeys_and_is_kept(
    house: House, visitor: Visitor, job: int, book: EngineBook
) -> None:
    house.hide(Faults(elongation_pct={"chain_b": 0.9}))
    visitor.send("POST", f"/api/jobs/{job}/live", {})

    def late() -> bool:
        cams = visitor.send("GET", f"/api/jobs/{job}/live")["cams"]
        return {c["cam"]: c["deviation_deg"] for c in cams}.get("cam_b_ex", 0) > 6

    assert until(late)
    visitor.send(
        "POST", f"/api/jobs/{job}/live/command", {"rpm": 2000, "phasers": {"phaser_a": 20}}
    )
    assert (
        refusal(visitor, "POST", f"/api/jobs/{job}/live/command", {"phasers": {"phaser_a": 170}})[0]
        == 422
    )
    until(lambda: (visitor.send("GET", f"/api/jobs/{job}/live")["rpm"] or 0) > 1700)
    visitor.send("POST", f"/api/jobs/{job}/live/record", {})
    until(lambda: (visitor.send("GET", f"/api/jobs/{job}/live")["recording_s"] or 0) > 1.5)
    assert refusal(visitor, "POST", f"/api/jobs/{job}/live/keep", {"version": 99})[0] == 409
    assert visitor.send("GET", f"/api/jobs/{job}/live")["recording_s"], (
        "a keep refused as stale loses no record"
    )
    visitor.change(
        job,
        "POST",
        "/live/keep",
        {"phasers": {"phaser_a": {"state": "commanded", "command_deg": 20}}},
    )
    assert visitor.send("GET", f"/api/jobs/{job}/live")["recording_s"] is None
    readings = {r["part"]: r for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]}
    assert readings["cam_a_in"]["value"] == pytest.approx(-20, abs=1)
    assert (readings["cam_a_in"]["phaser_state"], readings["cam_b_in"]["phaser_state"]) == (
        "commanded",
        "unknown",
    )
    visitor.change(job, "POST", "/live/keep", {"seconds": 2})
    assert len(visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]) == 2
    assert visitor.send("POST", f"/api/jobs/{job}/live/stop", {})["state"] == "off"
    assert refusal(visitor, "POST", f"/api/jobs/{job}/live/record", {})[0] == 409


def test_losing_the_box_in_the_middle_keeps_what_came(
    house: House, visitor: Visitor, job: int
) -> None:
    visitor.send("POST", f"/api/jobs/{job}/live", {})
    until(lambda: visitor.send("GET", f"/api/jobs/{job}/live")["cams"])
    visitor.send("POST", f"/api/jobs/{job}/live/record", {})
    until(lambda: (visitor.send("GET", f"/api/jobs/{job}/live")["recording_s"] or 0) > 1.2)
    house.app.config["LIVE"].of(job).stream.connection.shutdown(2)
    lost = until(
        lambda: (s := visitor.send("GET", f"/api/jobs/{job}/live"))["state"] == "lost" and s
    )
    assert lost["trouble"]["code"] == "device_lost"
    kept = until(lambda: visitor.send("GET", f"/api/jobs/{job}/readings")["captures"])
    assert kept[0]["seconds"] >= 1
    assert lost["held_s"] > 1


@pytest.fixture
def linked(house: House, link: Server) -> House:
    settings = house.app.config["SETTINGS"]
    house.app.config["SETTINGS"] = settings.__class__(
        **{**settings.model_dump(), "link_port": link.server_address[1]}
    )
    return house


def test_a_sweep_says_what_the_phaser_is(linked: House, visitor: Visitor, job: int) -> None:
    linked.hide(Faults(phaser_rate={"phaser_b": 0.4}))
    assert "Warm the engine" in visitor.send("GET", f"/api/jobs/{job}/logs")["advice"]
    words = visitor.change(
        job, "POST", "/logs/sweep", {"phasers": ["phaser_a", "phaser_b"], "oil": "hot"}
    )["words"]
    assert "Phaser B (2-4-6) slow" in words
    found = visitor.send("GET", f"/api/jobs/{job}/logs")
    assert "cold" in found["advice"]
    fits = {f["phaser"]: f for f in found["logs"][0]["fits"]}
    assert (fits["phaser_a"]["state"], fits["phaser_b"]["state"]) == ("sound", "slow")
    assert len(fits["phaser_a"]["times_s"]) == len(fits["phaser_a"]["fit_deg"])
    verdict = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]
    slow = next(s for s in verdict["suspects"] if s["key"] == "slow:phaser_b")
    assert slow["probability"] > 0.3 > slow["prior"]
    assert slow["evidence"][0]["number"] == f"L{found['logs'][0]['id']}"
    assert "slow:phaser_a" not in {s["key"] for s in verdict["suspects"] if s["probability"] > 0.1}
    text = visitor.client.get(f"/api/jobs/{job}/logs/{found['logs'][0]['id']}.csv").data
    path = f"/api/jobs/{job}/logs/file?version={version_of(visitor, job)}"
    answer = send_file(visitor, path, io.BytesIO(text), "log.csv")
    assert answer.status_code == 200, answer.text
    assert "Phaser B (2-4-6) slow" in answer.get_json()["words"]
    body = {"version": version_of(visitor, job), "phasers": ["phaser_z"], "oil": "hot"}
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/logs/sweep", body)
    assert (status, error["message"]) == (422, "The book has no such phaser.")


def test_a_worksheet_is_kept_with_its_photographs(visitor: Visitor, job: int) -> None:
    sheet = {
        "kind": "endoscope",
        "part": "guide_a",
        "fields": {"finding": "broken", "note": "lower third"},
    }
    assert visitor.send("POST", f"/api/jobs/{job}/worksheet", sheet)["answer"]["band"] == "replace"
    visitor.change(job, "POST", "/readings/worksheet", sheet)
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]
    assert (reading["value"], reading["band"], reading["as_typed"]) == (
        None,
        "replace",
        "lower third",
    )
    for kind in ("JPEG", "PNG", "WEBP"):
        assert (
            send_photo(visitor, job, reading["id"], picture(kind), f"p.{kind}").status_code == 200
        )
    photos = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]["photos"]
    assert len(photos) == 3
    answer = visitor.client.get(f"/api/jobs/{job}/photos/{photos[0]}")
    assert answer.mimetype == "image/webp"
    assert Image.open(io.BytesIO(answer.data)).size == (2000, 1000)
    bad = send_photo(visitor, job, reading["id"], io.BytesIO(b"GIF89a nothing"), "p.jpg")
    assert bad.status_code == 422
    assert bad.get_json()["expected"] == "JPEG, PNG or WebP"
    assert visitor.client.get(f"/api/jobs/{job}/photos/99999").status_code == 404


def test_every_kind_of_reading_stands_in_the_report(visitor: Visitor, job: int) -> None:
    lash = {"method": "angles", "stop": "0", "moved": "6.5", "uncertainty": "0.5"}
    sheets = [
        ("lash", "cam_a_in", lash),
        ("endoscope", "guide_a", {"finding": "grooved"}),
        ("oil", "engine", {"level": "full"}),
    ]
    for kind, part, fields in sheets:
        visitor.change(
            job, "POST", "/readings/worksheet", {"kind": kind, "part": part, "fields": fields}
        )
    report = visitor.client.get(f"/api/jobs/{job}/report.html").text
    assert "Reverse-rotation lash, Intake cam, bank A (1-3-5)" in report
    assert "6.5 ° ± 0.50" in report
    assert "Guide A (1-3-5): grooved." in report
    assert "pressure not measured" in report


def test_a_measured_liner_speaks_in_the_verdict(visitor: Visitor, job: int) -> None:
    sheet = {
        "kind": "liner",
        "part": "guide_b",
        "fields": {"points": "1.9 2.2 mm", "face": "whole", "uncertainty": "0.1"},
    }
    visitor.change(job, "POST", "/readings/worksheet", sheet)
    wear = {w["key"]: w for w in visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["wear"]}
    assert wear["guide_b"]["median"] == pytest.approx(3.6, abs=0.2)


def test_a_whole_job_moves_with_blocks_photographs_and_logs(
    linked: House, visitor: Visitor, job: int, kept: int
) -> None:
    visitor.change(
        job,
        "POST",
        "/readings/worksheet",
        {"kind": "endoscope", "part": "guide_a", "fields": {"finding": "whole"}},
    )
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][-1]["id"]
    send_photo(visitor, job, reading, picture(), "p.jpg")
    visitor.versions.clear()
    visitor.change(job, "POST", "/logs/sweep", {"phasers": ["phaser_a"], "oil": "hot"})
    archive = json.loads(visitor.client.get(f"/api/jobs/{job}/archive.json").text)
    assert len(archive["photos"]) == len(archive["logs"]) == 1
    archive["job"]["number"] = "SI-0777"
    content = io.BytesIO(json.dumps(archive).encode())
    answer = send_file(visitor, "/api/import", content, "job.json")
    moved = answer.get_json()["id"]
    readings = visitor.send("GET", f"/api/jobs/{moved}/readings")
    assert len(readings["readings"][-1]["photos"]) == 1
    again = readings["captures"][0]["id"]
    one, two = (
        from_parquet(visitor.client.get(at(j, k, "/file.parquet")).data)
        for j, k in ((job, kept), (moved, again))
    )
    assert all(np.array_equal(one.channels[n], two.channels[n]) for n in one.channels)
    assert visitor.send("GET", f"/api/jobs/{moved}/logs")["logs"][0]["fits"]
