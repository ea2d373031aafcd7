"""The command line as a person runs it, without a database."""

import json
import subprocess
from pathlib import Path

import pytest
from tests.conftest import BOOK_FILE
from tests.support.cluster import ROOT

from flaneur.cli import main

ENGINE = ["--engine", str(BOOK_FILE)]


@pytest.fixture(scope="module")
def capture_file(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("cli")
    faults = folder / "faults.json"
    faults.write_text(json.dumps({"elongation_pct": {"chain_a": 0.8}}))
    out = folder / "capture.csv"
    assert (
        main(
            [
                "simulate",
                *ENGINE,
                "--faults",
                str(faults),
                "--out",
                str(out),
                "--seed",
                "4",
                "--seconds",
                "3",
            ]
        )
        == 0
    )
    return out


def test_simulating_twice_gives_the_same_capture(capture_file: Path, tmp_path: Path) -> None:
    again = tmp_path / "again.csv"
    faults = capture_file.parent / "faults.json"
    main(
        [
            "simulate",
            *ENGINE,
            "--faults",
            str(faults),
            "--out",
            str(again),
            "--seed",
            "4",
            "--seconds",
            "3",
        ]
    )
    assert again.read_bytes() == capture_file.read_bytes()


def test_correlate_prints_the_documented_object(
    capture_file: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["correlate", str(capture_file), *ENGINE, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert set(found) == {"engine", "cams", "quality", "rpm", "notes", "rest"}
    assert found["rest"] is None, "it still turned when the capture ended"
    assert found["notes"] == []
    assert found["engine"] == "Ostrey Tansy"
    always = {"cam", "deviation_deg", "stderr_deg", "scatter_deg", "cycles"}
    more = {"settled_deg", "moved", "per_edge", "delay_us", "delay_stderr_us"}
    assert [set(c) for c in found["cams"]] == [always | more] * 4
    assert len(found["cams"][0]["per_edge"]) == 8
    late = {c["cam"]: c["deviation_deg"] for c in found["cams"]}
    assert late["cam_a_in"] == pytest.approx(7.15, abs=0.2)
    assert late["cam_b_in"] == pytest.approx(0.0, abs=0.2)


def test_a_refusal_is_an_object_too_where_json_was_asked_for(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    bad = tmp_path / "bad.csv"
    bad.write_text("# rate_hz: 1.2.3\ncrank,cam\n1,2\n3,4\n", encoding="utf-8")
    for path, code in ((bad, "capture_unreadable"), (tmp_path / "none.csv", "not_found")):
        assert main(["correlate", str(path), *ENGINE, "--json"]) == 1
        out, err = capsys.readouterr()
        error = json.loads(out)["error"]
        assert error["code"] == code
        assert set(error) == {"code", "message", "read", "expected", "advice"}
        assert error["message"].rstrip(".") in err


def test_correlate_speaks_plainly_too(
    capture_file: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["correlate", str(capture_file), *ENGINE]) == 0
    assert "Intake cam, bank A (1-3-5)" in capsys.readouterr().out


def test_diagnose_from_a_file(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    readings = tmp_path / "readings.json"
    parked = {"state": "parked"}
    cams = [
        {"cam": "cam_a_in", "deviation_deg": 7.2, "stderr_deg": 0.05, "phaser": parked},
        {"cam": "cam_a_ex", "deviation_deg": 5.1, "stderr_deg": 0.05},
        {"cam": "cam_b_in", "deviation_deg": 0.1, "stderr_deg": 0.05, "phaser": parked},
        {"cam": "cam_b_ex", "deviation_deg": 0.0, "stderr_deg": 0.05},
    ]
    plungers = [{"chain": "chain_a", "plunger_mm": 21.9, "stderr_mm": 0.2}]
    readings.write_text(
        json.dumps(
            {
                "engine": "Ostrey Tansy",
                "hours": 3000,
                "oil": "good",
                "cams": cams,
                "plungers": plungers,
            }
        )
    )
    assert main(["diagnose", str(readings), *ENGINE, "--json"]) == 0
    verdict = json.loads(capsys.readouterr().out)
    assert verdict["suspects"][0]["key"] == "wear:chain_a"
    assert main(["diagnose", str(readings), *ENGINE]) == 0
    assert "Secondary chain A (1-3-5) elongated" in capsys.readouterr().out


def test_learn_gives_what_readings_take(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    measured = [{"part": "chain_a", "value": 0.9, "stderr": 0.03}]
    told = {"engine": "Ostrey Tansy", "hours": 3000, "oil": "good"}
    closed = tmp_path / "closed.json"
    closed.write_text(json.dumps({**told, "direct": measured}))
    assert main(["learn", str(closed), str(closed), *ENGINE, "--json"]) == 0
    learned = json.loads(capsys.readouterr().out)
    asked = tmp_path / "asked.json"
    risks = []
    for more in ({}, learned):
        asked.write_text(json.dumps(told | more))
        assert main(["diagnose", str(asked), *ENGINE, "--json"]) == 0
        wear = json.loads(capsys.readouterr().out)["wear"]
        risks.append({w["key"]: w["over"] for w in wear})
    assert risks[1]["chain_b"] > 1.2 * risks[0]["chain_b"]
    assert risks[1]["guide_b"] == pytest.approx(risks[0]["guide_b"], abs=0.01)
    assert main(["learn", str(closed), *ENGINE]) == 0
    assert "(1 measured, 1 engine)" in capsys.readouterr().out


def test_trust_holds_what_was_said_against_the_parts(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    closed = tmp_path / "closed.json"
    cam = {"cam": "cam_a_in", "deviation_deg": 7.5, "stderr_deg": 0.2}
    told = {
        "engine": "Ostrey Tansy",
        "hours": 5000,
        "oil": "poor",
        "cams": [{**cam, "phaser": {"state": "parked"}}],
        "direct": [{"part": "chain_a", "value": 0.9, "stderr": 0.03}],
    }
    closed.write_text(json.dumps(told))
    assert main(["trust", str(closed), *ENGINE, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert (found["jobs"], found["parts"]) == (1, 1)
    assert sum(b["over"] for b in found["bins"]) == 1
    assert [e["method"] for e in found["errors"]] == ["cam"]
    assert main(["trust", str(closed), str(closed), *ENGINE]) == 0
    assert "2 parts measured after a verdict: too few" in capsys.readouterr().out


def test_book_check_prints_one_line_per_fault(
    tmp_path: Path, book_text: str, capsys: pytest.CaptureFixture[str]
) -> None:
    bad = tmp_path / "bad.yaml"
    bad.write_text(book_text.replace("teeth: 21", "teeth: none").replace("links: 66", "links: -1"))
    assert main(["book", "check", str(bad)]) == 1
    lines = capsys.readouterr().err.strip().splitlines()
    assert len(lines) == 2
    assert lines[0].startswith("sprockets.crank.teeth: ")
    assert lines[1].startswith("chains.primary.links: ")


def test_book_check_is_content_with_the_shipped_book(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["book", "check", str(BOOK_FILE)]) == 0
    assert "no fault" in capsys.readouterr().out


@pytest.mark.parametrize(
    ("arguments", "file"),
    [
        (["schema"], "engine-book.schema.json"),
        (["templates", "--schema"], "operation-templates.schema.json"),
        (["templates", "--page"], "operation-templates.md"),
    ],
)
def test_what_is_published_is_what_the_models_say(
    capsys: pytest.CaptureFixture[str], arguments: list[str], file: str
) -> None:
    main(["book", *arguments])
    published = (ROOT / "docs" / "formats" / file).read_text(encoding="utf-8")
    assert capsys.readouterr().out == published, "run script/openapi"


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["correlate", "nowhere.csv", *ENGINE], "nowhere.csv"),
        (["correlate", str(BOOK_FILE), *ENGINE], "does not name columns"),
        (["correlate", "x.csv", "--engine", "nowhere.yaml"], "nowhere.yaml"),
        (["diagnose", str(BOOK_FILE), *ENGINE], "Invalid JSON"),
        (["book", "check", str(ROOT)], "directory"),
    ],
)
def test_bad_input_gets_one_clear_message(
    arguments: list[str], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(arguments) == 1
    said = capsys.readouterr()
    assert words in said.err
    assert "Traceback" not in said.err
    assert said.out == ""


def test_unknown_faults_are_refused_and_nothing_is_written(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    faults, out = tmp_path / "faults.json", tmp_path / "out.csv"
    faults.write_text('{"elongation_pct": {"fan_belt": 3}}')
    assert main(["simulate", *ENGINE, "--faults", str(faults), "--out", str(out)]) == 1
    assert "fan_belt" in capsys.readouterr().err
    assert not out.exists()


def test_runs_from_a_checkout() -> None:
    done = subprocess.run(
        [ROOT / "script" / "flaneur", "book", "check", BOOK_FILE],
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert (done.returncode, done.stdout.strip()) == (0, "Ostrey Tansy: no fault found.")
