"""Wear against hours: when a limit is met, learned from a fleet, and when to look again."""

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from pydantic import ValidationError
from tests.support.cluster import ROOT

from flaneur.cli import main
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError
from flaneur.core.trend.fleet import before, learned
from flaneur.core.trend.forecast import (
    LEAST_STEP_H,
    between,
    by_engine,
    fleet_trend,
    look_again_in,
)
from flaneur.core.trend.growth import crossing_hours, followed
from flaneur.core.trend.lives import Fleet, Life, WearReading, wear_parts


def life(book: EngineBook, share: float, engine: str = "PIL-9", **more: Any) -> Life:
    """A chain A that wears ``share`` times as the book has it, read three times, sharply."""
    wear = wear_parts(book)["chain_a"].wear
    at = [wear.typical_hours * t for t in (0.3, 0.6, 0.9)]
    readings = [
        WearReading(
            hours=h,
            value=share * wear.typical * (h / wear.typical_hours) ** wear.shape,
            stderr=0.03 * share * wear.typical,
        )
        for h in at
    ]
    return Life(engine=engine, part="chain_a", hours=at[-1], readings=readings, **more)


def test_a_part_that_wears_faster_is_at_its_limit_sooner(book: EngineBook) -> None:
    lives = [life(book, share, f"E{share}") for share in (0.7, 1.0, 1.6)]
    found = {t.engine: t for t in fleet_trend(book, Fleet(lives=lives)).trends}
    middles = [found[x.engine].at_limit_hours.middle or np.inf for x in lives]
    assert middles == sorted(middles, reverse=True)
    assert middles[2] < middles[0] / 1.5
    for x in lives:
        wear = found[x.engine].wear
        assert wear.low is not None
        assert wear.high is not None
        assert wear.low <= x.readings[-1].value <= wear.high
    assert next(iter(by_engine(list(found.values())))) == "E1.6"


def test_an_interval_narrows_with_every_reading(book: EngineBook) -> None:
    whole = life(book, 1.2)
    widths = list[float]()
    for count in (0, 1, 3):
        one = whole.model_copy(update={"readings": whole.readings[:count]})
        at = fleet_trend(book, Fleet(lives=[one])).trends[0].at_limit_hours
        widths.append((at.high or 1e6) - (at.low or 0))
    assert widths == sorted(widths, reverse=True)


def test_wear_only_grows_and_a_limit_is_met_once(book: EngineBook) -> None:
    part, rng = wear_parts(book)["chain_a"], np.random.default_rng(1)
    draws = followed(part, life(book, 1.0), before(), rng, 2000)
    at = crossing_hours(part, draws, rng)
    assert np.all(at >= draws.hours)
    over = draws.wear >= part.limit
    assert np.all(at[over] == draws.hours)


def test_the_fleet_tells_of_an_engine_that_nobody_read(book: EngineBook) -> None:
    unread = Life(engine="new", part="chain_b", hours=3000)
    told = [life(book, 1.8, f"E{i}", is_over=True) for i in range(5)]
    parts = wear_parts(book)
    assert learned(parts, [])["chain"].times == pytest.approx(1, abs=0.02)
    assert 1.4 < learned(parts, told)["chain"].times < 2.0
    alone = fleet_trend(book, Fleet(lives=[unread])).trends[0]
    among = fleet_trend(book, Fleet(lives=[unread, *told]))
    assert [t.engine for t in among.trends] == ["new"], "what is over is not told of"
    assert among.told["chain"] == 5
    assert (among.trends[0].at_limit_hours.middle or 0) < (alone.at_limit_hours.middle or 0)


def test_the_same_fleet_gives_the_same_answer(book: EngineBook) -> None:
    fleet = Fleet(lives=[life(book, 1.0)])
    assert fleet_trend(book, fleet, seed=3) == fleet_trend(book, fleet, seed=3)
    slow = fleet.model_copy(update={"hours_a_day": 1.0})
    days = [fleet_trend(book, f).trends[0].at_limit_days.middle or 0 for f in (fleet, slow)]
    assert days[1] == pytest.approx(4 * days[0], rel=0.02)


def test_the_next_look_comes_before_the_limit(book: EngineBook) -> None:
    left = np.random.default_rng(2).normal(2000, 150, 4000)
    again = look_again_in(left)
    assert 1200 < again < 1800
    assert look_again_in(left * 2) > again
    assert look_again_in(np.full(100, np.inf)) >= LEAST_STEP_H
    assert look_again_in(np.zeros(100)) >= LEAST_STEP_H
    far = between(np.array([1.0, np.inf, np.inf, np.inf]))
    assert (far.low, far.middle, far.high) == (1.0, None, None)


def test_what_cannot_be_a_life_is_refused(book: EngineBook) -> None:
    first, last = life(book, 1.0).readings[0], life(book, 1.0).readings[-1]
    with pytest.raises(ValidationError, match="in the order of hours"):
        Life(engine="a", part="chain_a", hours=9000, readings=[last, first])
    with pytest.raises(ValidationError, match="in the order of hours"):
        Life(engine="a", part="chain_a", hours=10, readings=[first])
    with pytest.raises(ReadingError, match="no such part that wears"):
        fleet_trend(book, Fleet(lives=[Life(engine="a", part="flux_coil", hours=10)]))


def test_the_command_tells_it(
    book: EngineBook, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "fleet.json"
    file.write_text(Fleet(lives=[life(book, 1.0)]).model_dump_json())
    arguments = ["trend", str(file), "--engine", str(ROOT / "engines" / "ostrey-tansy.yaml")]
    assert main([*arguments, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert found["trends"][0]["part"] == "chain_a"
    assert main(arguments) == 0
    assert "Secondary chain A" in capsys.readouterr().out
    file.write_text('{"lives": [{"engine": "a"}]}')
    assert main([*arguments, "--json"]) == 1
    assert json.loads(capsys.readouterr().out)["error"]["code"] == "input_invalid"


def test_proof_on_the_command_line(capsys: pytest.CaptureFixture[str]) -> None:
    arguments = ["proof", "--engine", str(ROOT / "engines" / "ostrey-tansy.yaml")]
    more = ["--scope", "chain_a_part", "--stop", "300deg", "--miss", "dot_a_in=17deg"]
    assert main([*arguments, *more, "--json"]) == 0
    found = json.loads(capsys.readouterr().out)
    assert [c["turns"] for c in found["comes_back"]][-1] == 56
    assert found["stop"]["at_deg"] == 300
    assert found["misses"][0]["kind"] == "tooth"
    assert main([*arguments, *more]) == 0
    assert "agree again after 56" in capsys.readouterr().out
    assert main([*arguments, "--miss", "line_pulley=3"]) == 1
    assert main([*arguments, "--stop", "800"]) == 1
    capsys.readouterr()
