"""The vehicle link and the phaser sweep: hidden faults are called by their names, with the right
figures.
"""

from dataclasses import replace

import numpy as np
import pytest
from tests.core.test_fuzz import spoilt

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import CaptureError, DeviceError
from flaneur.core.faults.model import Faults, after_repair
from flaneur.core.phasers.drivelog import DriveLog, log_words
from flaneur.core.phasers.fit import fit_phaser
from flaneur.core.phasers.found import PhaserResponseFit
from flaneur.core.phasers.response import expected_response, follow
from flaneur.core.phasers.sweep import sweep_commands
from flaneur.devices.link import LinkClient
from flaneur.formats.logs import read_log, write_log
from flaneur.simulation.server import Server
from flaneur.simulation.vehicle import simulate_log


def log_of(book: EngineBook, faults: Faults, oil: str = "hot") -> DriveLog:
    commands, seconds = sweep_commands(book, list(book.phasers))
    rng = np.random.default_rng(4)
    return simulate_log(book, faults, commands, seconds, 15, oil, rng)  # type: ignore[arg-type]


def fit(book: EngineBook, faults: Faults, oil: str = "hot") -> PhaserResponseFit:
    return fit_phaser(book, "phaser_a", read_log(write_log(log_of(book, faults, oil)), book))


@pytest.mark.parametrize("oil", ["hot", "cold"])
@pytest.mark.parametrize(
    ("faults", "state"),
    [
        (Faults(), "sound"),
        (Faults(phaser_rate={"phaser_a": 0.4}), "slow"),
        (Faults(phaser_hunting_deg={"phaser_a": 3}), "hunting"),
        (Faults(phaser_drift_deg_s={"phaser_a": -1.2}), "drifting"),
        (Faults(phaser_park_deg={"phaser_a": 6}), "not_parking"),
        (Faults(phaser_offset_deg={"phaser_a": -14}), "stuck"),
        (Faults(elongation_pct={"chain_a": 0.8}), "off_base"),
        (Faults(elongation_pct={"chain_a": 0.8}, base_relearned=True), "sound"),
        (Faults(oil_pressure_share=0.5), "sound"),
    ],
)
def test_each_fault_is_called_by_its_name(
    book: EngineBook, faults: Faults, state: str, oil: str
) -> None:
    assert fit(book, faults, oil).state == state


def test_the_figures_are_right(book: EngineBook) -> None:
    found = fit(book, Faults(phaser_rate={"phaser_a": 0.5}))
    expected = expected_response(book.phasers["phaser_a"], found.oil_c, found.oil_kpa)
    assert found.rate_out_deg_s == pytest.approx(0.5 * expected.rate_out_deg_s, rel=0.06)
    assert found.rate_back_deg_s == pytest.approx(0.5 * expected.rate_back_deg_s, rel=0.06)
    assert found.dead_time_s == pytest.approx(expected.dead_time_s, abs=0.02)
    hunting = fit(book, Faults(phaser_hunting_deg={"phaser_a": 3}))
    assert hunting.hunting_deg == pytest.approx(3, rel=0.15)
    assert hunting.hunting_hz == pytest.approx(1.1, abs=0.05)


def test_cold_oil_and_low_pressure_slow_a_sound_phaser(book: EngineBook) -> None:
    phaser = book.phasers["phaser_a"]
    hot, cold, low = (expected_response(phaser, c, p) for c, p in ((90, 300), (20, 300), (90, 75)))
    assert (hot.rate_out_deg_s, hot.dead_time_s) == (90, 0.12)
    assert cold.rate_out_deg_s < 0.65 * hot.rate_out_deg_s
    assert cold.dead_time_s > 1.5 * hot.dead_time_s
    assert low.rate_out_deg_s == pytest.approx(45)


def test_the_model_solves_its_own_equation() -> None:
    """Against stepping x′ = clip((target − x)/lag, −back, out) in small steps."""
    t = np.arange(0, 4, 0.0005)
    found = follow(t, [(0.5, 20.0), (0.9, 2.0), (2.0, 9.0)], 0.1, 60, 40, 1.0)
    x, worst = 1.0, 0.0
    for i, now in enumerate(t):
        target = 1.0 if now < 0.6 else 20.0 if now < 1.0 else 2.0 if now < 2.1 else 9.0
        worst = max(worst, abs(x - found[i]))
        x += 0.0005 * min(max((target - x) / 0.08, -40), 60)
    assert worst < 0.06


def test_a_relearned_base_hides_a_stretched_chain_and_is_said(book: EngineBook) -> None:
    hidden, shown = (
        log_of(book, Faults(elongation_pct={"chain_a": 0.8}, base_relearned=r))
        for r in (True, False)
    )
    assert abs(float(np.median(hidden.actual_deg["phaser_a"][:40]))) < 0.3
    assert float(np.median(shown.actual_deg["phaser_a"][:40])) < -6
    assert any("relearned its base" in w for w in log_words(hidden))
    assert any("P0016" in w for w in log_words(shown))
    assert not hidden.codes
    assert any("unknown" in w for w in log_words(replace(shown, relearned=None)))


def test_a_log_without_commands_tells_nothing(book: EngineBook) -> None:
    quiet = simulate_log(book, Faults(), [], 10, 15, "hot", np.random.default_rng(1))
    assert fit_phaser(book, "phaser_a", quiet).state == "not_told"
    with pytest.raises(CaptureError):
        fit_phaser(book, "phaser_z", quiet)


def test_a_renewed_phaser_is_sound_again(book: EngineBook) -> None:
    hidden = Faults(phaser_rate={"phaser_a": 0.4, "phaser_b": 0.4}, cold_rattle_deg=3)
    after = after_repair(hidden, book, ["phaser_a_part", "tensioner_a"], [], {})
    assert after.phaser_rate == {"phaser_b": 0.4}
    assert after.cold_rattle_deg == 0


def test_logs_come_back_and_foreign_ones_are_understood(book: EngineBook) -> None:
    log = log_of(book, Faults(elongation_pct={"chain_a": 0.8}))
    back = read_log(write_log(log), book)
    assert back.codes == log.codes
    assert back.relearned is False
    assert back.actual_deg["phaser_b"] == pytest.approx(log.actual_deg["phaser_b"])
    head = "Time (ms);RPM;phaser_a actual (cam deg);phaser_a command (cam deg)\n"
    foreign = head + "".join(f"{i * 100};700,5;1,5;10\n" for i in range(30))
    other = read_log(foreign.encode(), book)
    assert other.times_s[-1] == pytest.approx(2.9)
    assert other.actual_deg["phaser_a"][0] == 3.0
    assert other.relearned is None


def test_a_log_without_oil_never_calls_a_phaser_sound(book: EngineBook) -> None:
    log = replace(log_of(book, Faults()), oil_known=False)
    back = read_log(write_log(log), book)
    assert back.oil_known is False
    found = fit_phaser(book, "phaser_a", back)
    assert found.state == "not_told"
    assert "not logged" in found.words
    assert any("not logged" in w for w in log_words(back))
    assert (
        fit_phaser(
            book,
            "phaser_a",
            replace(log_of(book, Faults(phaser_hunting_deg={"phaser_a": 3})), oil_known=False),
        ).state
        == "hunting"
    )


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "no rows"),
        (b"\x00\x01", "not a text file"),
        (b"\xff\xfe", "not a text file"),
        (b"a,b\n1,2\n", "no time column"),
        (b"time,rpm\n1,2\n", "no phaser of this engine"),
        (b"time,phaser_a actual\n1,x\n", "not a number"),
        (b"time,phaser_a actual\n1\n", "row of the log is short"),
        (b"time,phaser_a actual\n1,2\n2,3\n", "too short"),
        (
            b"time,phaser_a actual\n" + b"".join(b"%d,1\n" % (i % 7) for i in range(40)),
            "does not run forwards",
        ),
    ],
)
def test_bad_logs_are_refused(book: EngineBook, content: bytes, words: str) -> None:
    with pytest.raises(CaptureError) as error:
        read_log(content, book)
    assert words in error.value.message


def test_damaged_logs_never_crash_the_reader(book: EngineBook) -> None:
    whole = write_log(log_of(book, Faults())).encode()[:6000]
    for seed in range(60):
        try:
            assert read_log(spoilt(whole, seed), book).seconds > 0
        except CaptureError as error:
            assert error.message


def test_the_link_answers_and_refuses(link: Server, book: EngineBook) -> None:
    talk = LinkClient("127.0.0.1", link.server_address[1], timeout_s=20)
    assert talk.ask({"do": "hello"})["stand_in"] is True
    message = {"do": "log", "engine": book.name, "unit": "u9", "seconds": 5, "rate_hz": 12}
    before = read_log(talk.ask(message)["log"], book)
    assert before.rate_hz == pytest.approx(12, rel=0.05)
    link.engines.set("u9", Faults(elongation_pct={"chain_a": 0.8}))
    assert read_log(talk.ask(message)["log"], book).codes
    talk.ask({"do": "relearn", "engine": book.name, "unit": "u9"})
    assert not read_log(talk.ask(message)["log"], book).codes
    for bad in (
        {"do": "dance"},
        {**message, "seconds": 1e6},
        {**message, "commands": [{"at_s": 1, "phaser": "phaser_a", "deg": 999}]},
    ):
        with pytest.raises(DeviceError):
            talk.ask({"engine": book.name, "unit": "u9", **bad})
