"""Bolts judged by their torque–angle traces, and a wrench set with an adapter on it."""

import json
import math
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from flaneur.cli.commands import main
from flaneur.core.book.tasks import Stage
from flaneur.core.errors import CaptureError, ReadingError
from flaneur.core.fasteners.adapter import Lever, adapter_setting
from flaneur.core.fasteners.judging import BoltFault, Program, judge
from flaneur.core.fasteners.trace import Trace, curve_of
from flaneur.formats.traces import read_trace, write_trace
from flaneur.simulation.tightening import Hand, Joint, tighten

STRETCH = [
    Stage(kind="torque", value=60, tolerance=5),
    Stage(kind="angle", value=90, tolerance=5),
]
PLAIN = [Stage(kind="torque", value=24, tolerance=2)]
JOINT = Joint(0.75, 120.0)
NUMBERS = st.floats(1, 500)


def part(
    fault: BoltFault | None, stages: list[Stage] = STRETCH, seed: int = 5, hand: Hand | None = None
) -> list[Trace]:
    """Six bolts, the third of them at fault."""
    rng = np.random.default_rng(seed)
    joint = JOINT if len(stages) > 1 else Joint(0.5, 140.0)
    faults = [None, None, fault, None, None, None]
    return [
        tighten(f"bolt {i}", stages, rng, f, joint=joint, hand=hand)[0]
        for i, f in enumerate(faults, 1)
    ]


@pytest.mark.parametrize("fault", BoltFault)
@pytest.mark.parametrize("stages", [STRETCH, PLAIN], ids=["angle", "torque"])
def test_what_is_wrong_with_a_bolt_is_told_from_its_neighbours(
    fault: BoltFault, stages: list[Stage]
) -> None:
    if fault is BoltFault.STRETCHED and stages is PLAIN:
        pytest.skip("it never comes to its yield point")
    judged = judge(part(fault, stages), Program(stages=stages))
    assert [j.trace for j in judged] == [f"bolt {i}" for i in range(1, 7)]
    assert fault in {f.code for f in judged[2].faults}
    assert not judged[2].sound
    assert all(j.sound for i, j in enumerate(judged) if i != 2), [j.words for j in judged]
    assert all(f.words.endswith((".", "?")) for f in judged[2].faults)


@pytest.mark.parametrize("seed", range(4))
def test_the_yield_point_is_where_the_slope_has_fallen_to_half(seed: int) -> None:
    rng = np.random.default_rng(seed)
    traces, truths = zip(
        *(tighten(f"bolt {i}", STRETCH, rng, joint=JOINT) for i in range(5)), strict=True
    )
    for judged, truth in zip(judge(traces, Program(stages=STRETCH)), truths, strict=True):
        assert judged.yields is not None
        assert truth.yields_deg is not None
        assert judged.yields.angle_deg == pytest.approx(truth.yields_deg, abs=6)
        assert judged.turned_deg == pytest.approx(90, abs=5)
        assert judged.snug is not None
        assert judged.snug.torque_nm < 25
    below = judge(part(None, PLAIN), Program(stages=PLAIN))
    assert all(j.yields is None and j.stretch_deg is None for j in below)


def test_alone_a_bolt_is_held_against_what_is_known_of_its_kind() -> None:
    worn = part(BoltFault.STRETCHED)[2]
    alone = judge([worn], Program(stages=STRETCH))[0]
    assert not alone.is_compared
    assert "nobody knows what is usual" in alone.words, "unknown is not said to be sound"
    told = Program(stages=STRETCH, stretch_deg=118.0, slope_nm_deg=0.75)
    assert [f.code for f in judge([worn], told)[0].faults] == [BoltFault.STRETCHED]


def test_a_ratchet_let_go_and_swung_back_changes_nothing() -> None:
    whole, strokes = (
        Hand(stroke_deg=1000.0, noise_deg=0.01),
        Hand(stroke_deg=35.0, noise_deg=0.01),
    )
    one, many = (part(None, hand=h)[0] for h in (whole, strokes))
    assert many.time_s[-1] > one.time_s[-1] + 2
    a, b = (judge([t], Program(stages=STRETCH))[0] for t in (one, many))
    assert a.sound
    assert b.sound
    assert b.slope_nm_deg == pytest.approx(a.slope_nm_deg, rel=0.25)
    # Swung back with the wrench: the angle goes back by a stroke before it comes on again.
    swung = many.angle_deg.copy()
    standing = np.flatnonzero(many.torque_nm < 1.0)
    late = standing[standing > len(swung) * 0.6][:40]
    swung[late] -= 20.0
    again = judge([replace(many, angle_deg=swung)], Program(stages=STRETCH))[0]
    assert again.sound
    assert curve_of(many).slope.max() < 2.0, "no jerk is taken for a slope"


def test_a_trace_that_cannot_be_judged_says_why() -> None:
    good = part(None)[0]
    with pytest.raises(ReadingError, match="jumps back"):
        Trace.of("x", good.time_s[::-1].copy(), good.angle_deg, good.torque_nm)
    with pytest.raises(ReadingError, match="no trace"):
        Trace.of("x", good.time_s[:9], good.angle_deg[:9], good.torque_nm[:9])
    with pytest.raises(ReadingError, match="no trace"):
        Trace.of("x", good.time_s, good.angle_deg * np.nan, good.torque_nm)
    still = replace(good, angle_deg=np.zeros_like(good.angle_deg))
    with pytest.raises(ReadingError, match="Nothing was tightened"):
        judge([still], Program(stages=STRETCH))


def test_a_trace_goes_out_and_comes_in_whatever_its_units_are() -> None:
    trace = part(None)[0]
    text = write_trace(trace)
    back = read_trace(text.encode(), "bolt 1")
    assert back.torque_nm == pytest.approx(trace.torque_nm, rel=1e-4, abs=1e-4)
    rows = "\n".join(
        f"{t:.4f};{1000 * s:.3f};{a:.4f}".replace(".", ",")
        for s, a, t in zip(
            trace.time_s, trace.angle_deg, trace.torque_nm / 1.3558179483, strict=True
        )
    )
    other = read_trace(f"Torque (lbf ft);Time (ms);Angle (°)\n{rows}\n", "bolt 1")
    assert other.torque_nm == pytest.approx(trace.torque_nm, abs=0.01)
    assert other.time_s == pytest.approx(trace.time_s, abs=1e-4)
    for bad, said in (
        ("time (s),angle (deg)\n1,2\n", "no column of its torque"),
        ("time (s),angle (deg),torque (cups)\n1,2,3\n", "unit of its torque"),
        ("time (s),angle (deg),torque (Nm)\n1,2,x\n", "not a number"),
        ("time (s),angle (deg),torque (Nm)\n1,2\n", "short"),
        (b"\x00\x01", "not a text file"),
        ("", "no rows"),
    ):
        with pytest.raises(CaptureError, match=said):
            read_trace(bad, "bolt 1")


def test_the_command_judges_the_bolts_of_a_part(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    files = []
    for i, trace in enumerate(part(BoltFault.STRIPPED)):
        files.append(tmp_path / f"bolt-{i + 1}.csv")
        files[-1].write_text(write_trace(trace), encoding="utf-8")
    program = tmp_path / "program.json"
    stages = [s.model_dump() for s in STRETCH]
    program.write_text(json.dumps({"fastener": "cover_bolts", "stages": stages}), encoding="utf-8")
    command = ["torque", *map(str, files), "--program", str(program)]
    assert main([*command, "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert answer["fastener"] == "cover_bolts"
    assert [b["sound"] for b in answer["bolts"]] == [True, True, False, True, True, True]
    assert set(answer["bolts"][0]) == {
        *(
            "trace",
            "sound",
            "is_compared",
            "words",
            "faults",
            "snug",
            "slope_nm_deg",
            "yields",
            "stretch_deg",
        ),
        *("peak_nm", "turned_deg"),
    }
    assert main(command) == 0
    assert "gives way" in capsys.readouterr().out
    program.write_text('{"stages": [{"kind": "shove", "value": 3}]}', encoding="utf-8")
    assert main([*command, "--json"]) == 1
    assert "stages.0" in json.loads(capsys.readouterr().out)["error"]["read"]


@given(NUMBERS, NUMBERS, st.floats(0, 200), st.floats(-80, 80))
def test_a_wrench_set_so_gives_the_fastener_what_it_should(
    target: float, length: float, offset: float, angle: float
) -> None:
    wrench = Lever(length_mm=length, offset_mm=offset, angle_deg=angle)
    found = adapter_setting(target, wrench)
    lever = length + offset * math.cos(math.radians(angle))
    assert found.set_nm * lever / length == pytest.approx(target)
    assert found.error_nm == pytest.approx(0, abs=1e-9 * target)
    assert found.set_nm <= target * (1 + 1e-12), "straight on or aslant it is set lower"
    stepped = adapter_setting(target, wrench, graduation_nm=0.5)
    assert stepped.set_nm % 0.5 == pytest.approx(0, abs=1e-6) or stepped.set_nm % 0.5 > 0.499999
    assert abs(stepped.error_nm) <= 0.25 * lever / length + 1e-9


def test_an_adapter_square_to_the_wrench_changes_nothing_and_one_that_eats_it_is_refused(
    capsys: pytest.CaptureFixture[str],
) -> None:
    command = ["adapter", "--target", "24Nm", "--length", "380", "--offset", "55"]
    assert main([*command, "--angle", "90", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["set_nm"] == pytest.approx(24)
    assert main([*command, "--angle", "0", "--graduation", "0.5"]) == 0
    assert capsys.readouterr().out == "Set 21 Nm: the fastener gets 24.04 Nm, +0.04 Nm off.\n"
    assert main(["adapter", "--target", "24", *command[3:]]) == 1
    assert "No unit is written" in capsys.readouterr().err
    for target, *bad in ((0, 380, 55, 0), (24, 0, 55, 0), (24, 380, -1, 0), (24, 380, 55, 200)):
        with pytest.raises(ReadingError, match=r"No such"):
            adapter_setting(target, lever(*bad))
    with pytest.raises(ReadingError, match="takes the lever away"):
        adapter_setting(24, lever(100, 90, 180))


def lever(length: float, offset: float, angle: float) -> Lever:
    return Lever(length_mm=length, offset_mm=offset, angle_deg=angle)
