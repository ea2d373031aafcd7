"""Worksheets: their arithmetic by hand, units, and what cannot be."""

from dataclasses import dataclass, replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.units import parse_quantities, parse_quantity
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.sheets import work_out, worksheets
from flaneur.core.measuring.worksheet import Answer, Repeats
from flaneur.core.readings.kept_tests import kept_tests
from flaneur.core.readings.renewed import renewed_before
from flaneur.core.readings.taken import DirectReading, Readings

SLACK = "taken_up"


def test_every_sheet_has_parts_and_blanks(book: EngineBook) -> None:
    sheets = {s.kind: s for s in worksheets(book)}
    assert list(sheets) == [
        "plunger",
        "lash",
        "compress",
        "tool_fit",
        "links",
        "mark_miss",
        "chain_length",
        "liner",
        "debris",
        "endoscope",
        "noise",
        "oil",
    ]
    assert all(s.parts and s.blanks and s.where and s.why for s in sheets.values())


def test_lash_by_two_angles_and_by_the_pulley_agree(book: EngineBook) -> None:
    angles = work_out(
        book,
        "lash",
        "cam_a_in",
        {"method": "angles", "stop": "0 0.2 0", "moved": "6.5 6.8 6.4°", "uncertainty": "0.3"},
    )
    assert angles.value == pytest.approx((6.5 + 6.6 + 6.4) / 3)
    assert angles.band == "marginal"
    pulley = {
        "method": "pointer",
        "way": "8.508 mm",
        "diameter": "150 mm",
        "uncertainty": "0.5°",
    }
    assert work_out(book, "lash", "cam_a_in", pulley).value == pytest.approx(6.5, abs=0.001)


@pytest.mark.parametrize(
    ("fields", "value"),
    [
        ({"method": "direct", "out": "0.5 in", "uncertainty": "0.2 mm"}, 12.7),
        ({"method": "gauge", "whole": "83.1 82.9 mm", "uncertainty": "0.1"}, 13.0),
        ({"method": "notches", "notches": "4", "uncertainty": "0"}, 2.5 + 4 * 2.5 + 1.25),
    ],
)
def test_a_plunger_in_three_ways(book: EngineBook, fields: dict[str, str], value: float) -> None:
    found = work_out(book, "plunger", "chain_a", fields)
    assert found.value == pytest.approx(value)
    assert found.stderr is not None
    assert found.stderr >= 0.1


def test_a_plunger_at_its_stop_is_judged_and_one_on_its_way_is_not(book: EngineBook) -> None:
    fields = {"method": "direct", "uncertainty": "0.2"}
    at_stop = work_out(book, "plunger", "chain_a", {**fields, "out": "27.8"})
    assert at_stop.band == "replace"
    assert "At its stop, 28 mm" in at_stop.words
    on_its_way = work_out(book, "plunger", "chain_a", {**fields, "out": "26"})
    assert (on_its_way.band, "stop" in on_its_way.words) == ("unknown", False)


def test_elongation_allows_for_a_warm_chain(book: EngineBook) -> None:
    fields = {
        "links": "40",
        "length": "322.4 322.6 322.5 mm",
        "pull": "100 N",
        "uncertainty": "0.1 mm",
    }
    cold, warm = (
        work_out(book, "chain_length", "chain_a", {**fields, "temperature": t})
        for t in ("20 °C", "140 °F")
    )
    assert cold.value == pytest.approx(0.78125)
    assert warm.value == pytest.approx((322.5 / (320 * (1 + 11.5e-6 * 40)) - 1) * 100)
    assert cold.band == "replace"
    assert "not stated" in work_out(book, "chain_length", "chain_a", {**fields, "pull": ""}).words


def test_a_liner_is_as_worn_as_its_thinnest_point(book: EngineBook) -> None:
    found = work_out(
        book,
        "liner",
        "guide_b",
        {"points": "5.2 2.3 4.8 mm", "face": "whole", "uncertainty": "0.1"},
    )
    assert found.value == pytest.approx(3.2)
    assert found.band == "replace"
    assert (
        work_out(
            book, "liner", "guide_b", {"points": "5.4 mm", "face": "cracked", "uncertainty": "0.1"}
        ).band
        == "replace"
    )
    assert (
        work_out(
            book, "liner", "guide_b", {"points": "5.4 mm", "face": "not_seen", "uncertainty": "0.1"}
        ).band
        == "unknown"
    )


def test_links_say_what_one_more_means(book: EngineBook) -> None:
    found = work_out(book, "links", "chain_a.0", {"counted": "44", "slack": SLACK})
    assert "1 more" in found.words
    assert "one tooth off" in found.words
    assert work_out(book, "links", "chain_a.0", {"counted": "43", "slack": SLACK}).band == "fine"
    assert (
        work_out(book, "links", "chain_a.0", {"counted": "43", "slack": "unknown"}).band
        == "unknown"
    ), "a reading of the slack"


@pytest.mark.parametrize(
    ("kind", "part", "fields", "band", "words"),
    [
        (
            "compress",
            "chain_a",
            {"method": "time", "time": "7 s", "load": "20.39 kgf"},
            "replace",
            "it leaks",
        ),
        (
            "compress",
            "chain_a",
            {"method": "feel", "feel": "firm"},
            "fine",
            "Relative only",
        ),
        (
            "tool_fit",
            "cam_a_in",
            {"tool": "T1", "angle": "0", "fit": "slides", "slack": SLACK},
            "fine",
            "slides on",
        ),
        (
            "tool_fit",
            "cam_a_in",
            {"tool": "T1", "angle": "0", "fit": "slides", "slack": "unknown"},
            "unknown",
            "not of the timing",
        ),
        (
            "debris",
            "engine",
            {"place": "pan", "plastic": "much", "metal": "none"},
            "replace",
            "plastic much",
        ),
        (
            "debris",
            "engine",
            {"place": "pan", "plastic": "not_looked", "metal": "none"},
            "unknown",
            "not looked",
        ),
        ("endoscope", "guide_a", {"finding": "not_seen"}, "unknown", "could not see"),
        (
            "noise",
            "engine",
            {
                "when": "cold_start",
                "seconds": "3 s",
                "place": "front_top",
                "belt": "gone",
            },
            "fine",
            "an accessory",
        ),
        (
            "noise",
            "engine",
            {"when": "not_heard", "place": "unknown", "belt": "not_tried"},
            "unknown",
            "unknown",
        ),
        (
            "oil",
            "engine",
            {"level": "full", "pressure": "1.2 bar", "warm": "92"},
            "replace",
            "120 kPa",
        ),
        ("oil", "engine", {"level": "full", "pressure": "1.8 bar"}, "unknown", "not read hot"),
        ("oil", "engine", {"level": "full"}, "unknown", "not measured"),
    ],
)
def test_looks_are_judged_and_unknown_stays_unknown(
    book: EngineBook, kind: str, part: str, fields: dict[str, str], band: str, words: str
) -> None:
    found = work_out(book, kind, part, fields)
    assert found.band == band
    assert words in found.words


@pytest.mark.parametrize(
    ("kind", "part", "fields", "words"),
    [
        ("dance", "x", {}, "no such worksheet"),
        ("lash", "crank", {}, "not for that part"),
        ("lash", "cam_a_in", {"colour": "red"}, "no such field"),
        ("lash", "cam_a_in", {"method": "by ear", "uncertainty": "1"}, "no answer to it"),
        (
            "lash",
            "cam_a_in",
            {"method": "angles", "stop": "0 0", "moved": "6", "uncertainty": "1"},
            "differ in length",
        ),
        (
            "lash",
            "cam_a_in",
            {"method": "angles", "stop": "0", "moved": "200", "uncertainty": "1"},
            "quarter turn",
        ),
        (
            "plunger",
            "chain_a",
            {"method": "direct", "out": "12 Nm", "uncertainty": "0.1"},
            "Plunger out: “Nm” is not a unit of length",
        ),
        (
            "plunger",
            "chain_a",
            {"method": "direct", "out": "12 mm", "uncertainty": "0"},
            "cannot stand there",
        ),
        (
            "chain_length",
            "chain_a",
            {"links": "400", "length": "9 mm", "uncertainty": "1"},
            "not that many links",
        ),
        (
            "chain_length",
            "chain_a",
            {"links": "40", "length": "380 mm", "uncertainty": "1"},
            "does not belong",
        ),
        (
            "chain_length",
            "chain_a",
            {"links": "4.5", "length": "380 mm", "uncertainty": "1"},
            "not a whole number",
        ),
        (
            "liner",
            "guide_a",
            {"points": "55 mm", "face": "whole", "uncertainty": "0.1"},
            "cannot be that thick",
        ),
        (
            "compress",
            "chain_a",
            {"method": "time", "time": "-1 s", "load": "200 N"},
            "no test",
        ),
        ("oil", "engine", {"level": "full", "pressure": "9999 bar"}, "No oil pump"),
        (
            "debris",
            "engine",
            {"place": "pan", "plastic": "none"},
            "Metal: nothing is filled in",
        ),
    ],
)
def test_what_cannot_be_is_refused_by_field(
    book: EngineBook, kind: str, part: str, fields: dict[str, str], words: str
) -> None:
    with pytest.raises(ReadingError) as error:
        work_out(book, kind, part, fields)
    assert words in error.value.message


def test_repeating_does_not_shrink_the_instruments_error() -> None:
    assert Repeats.of([5.0] * 100, 0.2).stderr == pytest.approx(0.2)
    assert Repeats.of([4.0, 6.0], 0.0).stderr == pytest.approx(1.0)


@given(
    st.lists(st.floats(-500, 500).map(lambda v: round(v, 2)), min_size=1, max_size=6),
    st.sampled_from([" ", "; ", " / ", "\n"]),
)
def test_many_values_come_back_however_parted(values: list[float], parting: str) -> None:
    assert parse_quantities(
        parting.join(str(v) for v in values) + " mm", "length"
    ) == pytest.approx(values)


@pytest.mark.parametrize(
    ("text", "kind", "value"),
    [("26 psi", "pressure", 179.26), ("1,8 bar", "pressure", 180), ("212 °F", "temperature", 100)],
)
def test_more_units(text: str, kind: str, value: float) -> None:
    assert parse_quantity(text, kind).value == pytest.approx(value, rel=1e-4)


@pytest.mark.parametrize("text", ["", "mm", "12 apples", "1..2 mm"])
def test_values_that_are_none_are_refused(text: str) -> None:
    with pytest.raises(ReadingError):
        parse_quantities(text, "length")


def test_wear_measured_on_the_part_outweighs_every_guess(book: EngineBook) -> None:
    direct = [
        DirectReading(part="chain_a", value=0.81, stderr=0.03),
        DirectReading(part="guide_a", value=0.2, stderr=0.1),
    ]
    found = diagnose(book, Readings(engine=book.name, hours=3000, direct=direct))
    wear = {w.key: w for w in found.wear}
    assert wear["chain_a"].median == pytest.approx(0.81, abs=0.04)
    assert wear["chain_a"].over > 0.99
    assert wear["guide_a"].high < 0.6
    assert found.suspects[0].key == "wear:chain_a"
    assert "measured: 0.81 % longer" in found.suspects[0].evidence[0].about
    with pytest.raises(ReadingError):
        diagnose(
            book,
            Readings(engine=book.name, direct=[DirectReading(part="crank", value=1, stderr=1)]),
        )


def test_answers_carry_their_arithmetic(book: EngineBook) -> None:
    found: Answer = work_out(
        book,
        "plunger",
        "primary",
        {"method": "notches", "notches": "3", "uncertainty": "0"},
    )
    assert found.working[0] == "2 mm + 3 · 2 mm = 8.00 mm"


@dataclass
class Sheet:
    """A worksheet as it is kept."""

    kind: str
    part: str
    value: float | None
    stderr: float | None
    detail: dict[str, Any]
    id: int = 1


def kept(book: EngineBook, kind: str, part: str, fields: dict[str, str]) -> Sheet:
    answer = work_out(book, kind, part, fields)
    return Sheet(kind, part, answer.value, answer.stderr, {"fields": fields})


@pytest.mark.parametrize(
    ("kind", "part", "fields", "told"),
    [
        (
            "lash",
            "cam_a_in",
            {"method": "angles", "stop": "0", "moved": "6.4", "uncertainty": "0.5"},
            {"lash_deg": 6.4, "stderr_deg": 0.5},
        ),
        ("compress", "chain_a", {"method": "feel", "feel": "at_once"}, {"feel": "sinks"}),
        (
            "compress",
            "chain_a",
            {"method": "time", "time": "6 s", "load": "100 N"},
            {"seconds": 3.0},
        ),
        (
            "tool_fit",
            "cam_a_in",
            {"tool": "holder", "angle": "0", "fit": "not_at_all", "slack": "taken_up"},
            {"fit": "does_not_start", "slack": "taken_up", "crank_deg": 0.0},
        ),
        ("links", "chain_a.0", {"counted": "44", "slack": "unknown"}, {"counted": 44}),
        (
            "debris",
            "engine",
            {"place": "pan", "plastic": "some", "metal": "none"},
            {"plastic": "some", "metal": "none"},
        ),
        ("endoscope", "guide_a", {"finding": "chain_beside"}, {"finding": "chain_off"}),
        (
            "noise",
            "engine",
            {"when": "cold_start", "place": "bank_A", "belt": "gone", "seconds": "3 s"},
            {"when": "cold_start", "where": "front_top_a", "belt_off": "goes", "seconds": 3.0},
        ),
        (
            "noise",
            "engine",
            {"when": "not_heard", "place": "unknown", "belt": "not_tried"},
            {"seconds": 0.0, "where": "elsewhere"},
        ),
        (
            "oil",
            "engine",
            {"level": "below", "pressure": "0.6 bar", "warm": "90 °C"},
            {"level": "low", "pressure_kpa": 60.0, "oil_c": 90.0},
        ),
    ],
)
def test_a_kept_sheet_tells_the_verdict_what_was_found(
    book: EngineBook, kind: str, part: str, fields: dict[str, str], told: dict[str, object]
) -> None:
    (test,) = kept_tests(book, [kept(book, kind, part, fields)])
    assert test.kind == kind
    assert told.items() <= test.model_dump().items()


def test_a_sheet_that_cannot_be_read_any_more_says_nothing(book: EngineBook) -> None:
    sheet = kept(book, "endoscope", "guide_a", {"finding": "whole"})
    assert kept_tests(book, [sheet])
    assert kept_tests(book, [replace(sheet, detail={"fields": {"finding": "purple"}})]) == []


def test_what_earlier_jobs_put_in_counts_from_then(book: EngineBook) -> None:
    earlier: list[tuple[float | None, list[str]]] = [
        (1000.0, ["chain_a_part", "front_seal"]),
        (None, ["chain_b_part"]),
        (2500.0, ["chain_a_part", "guide_a"]),
        (9000.0, ["chain_p"]),
    ]
    found = {t.part: t.hours_ago for t in renewed_before(book, 3000.0, earlier)}
    assert found == {"chain_a": 500.0, "guide_a": 500.0}
    assert renewed_before(book, None, earlier) == []
