"""What a verdict says first, what it builds a figure up from, and what each test moves."""

import pytest
from tests.support.cluster import ROOT

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import Verdict, diagnose
from flaneur.core.drive.counts import shifted_counts
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import ReadingError
from flaneur.core.faults.model import Faults
from flaneur.core.readings.intake import codes_of, told_tests
from flaneur.core.readings.taken import Readings
from flaneur.formats.books import load_book
from flaneur.simulation.placement import placed_state
from flaneur.simulation.synthesis import true_deviation_deg


def read(book: EngineBook, *tests: dict[str, object], **more: object) -> Verdict:
    cams = [
        {"cam": cam, "deviation_deg": deg, "stderr_deg": 0.05, "phaser": {"state": "parked"}}
        for cam, deg in dict(more.pop("cams", {})).items()  # type: ignore[call-overload]
    ]
    plungers = [
        {"chain": chain, "plunger_mm": mm, "stderr_mm": 0.2}
        for chain, mm in dict(more.pop("plungers", {})).items()  # type: ignore[call-overload]
    ]
    told = {"engine": book.name, "hours": 3000, "oil": "good", **more}
    return diagnose(
        book,
        Readings.model_validate({**told, "cams": cams, "plungers": plungers, "tests": list(tests)}),
        with_evidence=False,
    )


def of_faults(book: EngineBook, faults: Faults, *tests: dict[str, object]) -> Verdict:
    return read(
        book,
        *tests,
        cams=true_deviation_deg(book, faults),
        plungers=placed_state(book, faults).plunger_mm,
    )


def share(verdict: Verdict, key: str) -> float:
    every = (*verdict.suspects, *verdict.only_age)
    return next((s.probability for s in every if s.key == key), 0.0)


@pytest.fixture
def late(book: EngineBook) -> Verdict:
    return read(book, hours=5200, oil="poor", cams={"cam_a_in": 6.2}, plungers={"chain_a": 18.4})


def test_a_part_nothing_was_read_of_is_never_the_headline(late: Verdict) -> None:
    assert "B (2-4-6)" not in late.headline
    assert "wear:chain_b" in {s.key for s in late.only_age}
    assert "wear:chain_b" not in {s.key for s in late.suspects}
    assert not next(w for w in late.wear if w.key == "chain_b").is_read


def test_parts_each_under_their_limit_make_a_cam_late_together(late: Verdict) -> None:
    assert late.headline.startswith("Intake cam, bank A (1-3-5) 6.2° late, ±3.5° allowed")
    assert "secondary chain A (1-3-5)" in late.headline
    assert "together make it so, each probably still under its limit" in late.headline
    assert share(late, "sound") < 0.001


def test_a_figure_is_the_sum_of_its_causes(late: Verdict) -> None:
    (figure,) = late.out_of_tolerance
    assert figure.value == pytest.approx(6.2)
    shares = {cause.part: cause.share for cause in figure.causes}
    assert sum(shares.values()) == pytest.approx(6.2, abs=0.3)  # what is too small is left out
    assert shares["chain_a"] > shares["guide_p"] > 0
    assert {"primary", "guide_a", "wheel"} <= set(shares)
    assert all(cause.low <= cause.share <= cause.high for cause in figure.causes)


def test_teeth_and_wear_are_told_apart(book: EngineBook) -> None:
    faults = Faults(jumped_teeth={"chain_b/cam_b_in": 1}, elongation_pct={"chain_b": 0.5})
    verdict = of_faults(book, faults)
    leader = verdict.suspects[0]
    assert (leader.key, leader.teeth) == ("jump:chain_b/cam_b_in", 1)
    figure = next(f for f in verdict.out_of_tolerance if f.part == "cam_b_in")
    shares = {cause.part: cause.share for cause in figure.causes}
    assert shares["jump:chain_b/cam_b_in"] == pytest.approx(20, abs=0.4)
    assert 1.0 < shares["chain_b"] < 5.0


def test_three_teeth_are_three_teeth(book: EngineBook) -> None:
    leader = of_faults(book, Faults(jumped_teeth={"chain_b/idler_b": 3})).suspects[0]
    assert leader.kind == "jump"
    assert leader.teeth == 3


def test_a_plunger_at_its_stop_says_at_least(book: EngineBook) -> None:
    stop = book.tensioners["tensioner_a"].max_plunger_mm
    verdict = read(book, plungers={"chain_a": stop})
    worn = sum(share(verdict, k) for k in ("wear:chain_a", "wear:arm_a", "wear:guide_a"))
    assert worn > 0.85
    assert "stuck:tensioner_a" in {s.key for s in verdict.suspects}


def test_one_reading_contradicts_nothing() -> None:
    book = load_book(ROOT / "engines" / "dunmarrow-thistle.yaml")
    verdict = read(book, cams={"cam": 9.0})
    assert verdict.contradictions == []
    assert verdict.none_of_these.weight < 0.5


def test_a_chain_far_over_its_limit_leads(book: EngineBook) -> None:
    verdict = of_faults(book, Faults(elongation_pct={"primary": 0.75}))
    assert verdict.suspects[0].key == "wear:primary"
    assert "over its limit" in verdict.headline


def test_a_figure_no_drive_can_show_is_refused(book: EngineBook) -> None:
    with pytest.raises(ReadingError, match="No chain drive can show this"):
        read(book, cams={"cam_a_in": 300.0})


def test_a_kept_figure_no_drive_can_show_is_said_and_not_used(book: EngineBook) -> None:
    far = {"id": "7", "cam": "cam_a_in", "deviation_deg": 300.0, "stderr_deg": 0.1}
    verdict = read(book, cams={"cam_a_ex": 0.3}, set_aside=[far])
    assert verdict.readings_used == 1
    assert any("300.0° late: no chain drive can show this" in words for words in verdict.unused)


def test_slack_read_at_rest_is_not_laid_to_a_wheel() -> None:
    book = load_book(ROOT / "engines" / "dunmarrow-thistle.yaml")
    (figure,) = read(book, cams={"cam": 9.0}).out_of_tolerance
    assert {cause.part for cause in figure.causes} >= {"timing", "slack"}
    assert "wheel" not in {cause.part for cause in figure.causes}


def test_oil_that_is_low_is_not_said_to_make_a_cam_late(book: EngineBook) -> None:
    oil = {"kind": "oil", "pressure_kpa": 50, "oil_c": 92}
    verdict = read(book, oil, cams={"cam_a_in": 6.2, "cam_a_ex": 6.0})
    assert verdict.suspects[0].key == "oil_low"
    assert verdict.headline.startswith("Intake cam, bank A (1-3-5) 6.2° late")


def test_readings_of_one_cam_that_differ_are_named(book: EngineBook) -> None:
    cams = [{"cam": "cam_b_ex", "deviation_deg": deg, "stderr_deg": 0.1} for deg in (0.2, 6.4)]
    verdict = diagnose(
        book, Readings.model_validate({"engine": book.name, "hours": 3000, "cams": cams})
    )
    assert "was read twice, 0.2 and 6.4°" in verdict.contradictions[0]


@pytest.mark.parametrize(
    ("test", "key", "least"),
    [
        ({"kind": "compress", "part": "chain_a", "feel": "sinks"}, "leak:tensioner_a", 0.4),
        ({"kind": "compress", "part": "chain_a", "seconds": 3}, "leak:tensioner_a", 0.8),
        ({"kind": "compress", "part": "chain_a", "feel": "seized"}, "stuck:tensioner_a", 0.3),
        ({"kind": "sweep", "part": "phaser_a", "found": ["slow"]}, "slow:phaser_a", 0.2),
        ({"kind": "sweep", "part": "phaser_a", "found": ["not_parking"]}, "phaser:phaser_a", 0.2),
        ({"kind": "oil", "pressure_kpa": 60, "oil_c": 92}, "oil_low", 0.9),
        ({"kind": "codes", "codes": ["P0340"]}, "sensor:cam_a_in", 0.5),
        ({"kind": "endoscope", "part": "guide_a", "finding": "broken"}, "gone:guide_a", 0.4),
        ({"kind": "endoscope", "part": "guide_a", "finding": "worn"}, "wear:guide_a", 0.2),
        ({"kind": "debris", "plastic": "much", "metal": "none"}, "wear:guide_a", 0.06),
        (
            {"kind": "noise", "when": "hot_idle", "where": "elsewhere", "belt_off": "goes"},
            "accessory",
            0.9,
        ),
        (
            {"kind": "noise", "when": "cold_start", "where": "front_top_a", "belt_off": "stays"},
            "leak:tensioner_a",
            0.2,
        ),
        ({"kind": "complaint", "rattle": "cold_start", "stood_h": 14}, "lock_pin:phaser_a", 0.07),
        ({"kind": "complaint", "no_start": True}, "seized", 0.02),
        ({"kind": "links", "part": "chain_a.0", "counted": 44, "slack": "taken_up"}, "jump", 0.1),
        ({"kind": "lash", "part": "cam_a_in", "lash_deg": 3.9, "stderr_deg": 0.2}, "wear", 0.7),
        (
            {"kind": "tool_fit", "part": "cam_a_in", "fit": "does_not_start", "slack": "taken_up"},
            "wear",
            0.5,
        ),
        ({"kind": "codes", "codes": ["P0016"]}, "jump", 0.02),
    ],
)
def test_each_test_moves_what_it_speaks_of(
    book: EngineBook, test: dict[str, object], key: str, least: float
) -> None:
    verdict = read(book, test)
    bare = read(book)
    now = sum(s.probability for s in verdict.suspects if s.key == key or s.kind == key)
    before = sum(s.probability for s in bare.suspects if s.key == key or s.kind == key)
    assert now > max(least, 1.3 * before), (now, before)


@pytest.mark.parametrize("contact", ["chain_a/idler_a", "chain_a/cam_a_in", "chain_a/cam_a_ex"])
def test_links_counted_name_the_contact_that_jumped(book: EngineBook, contact: str) -> None:
    found = shifted_counts(DriveTrain(book), contact, 1)
    tests = [
        {"kind": "links", "part": f"chain_a.{i}", "counted": found["chain_a", c.start, c.end]}
        for i, c in enumerate(book.chains["chain_a"].counts)
    ]
    leader = read(book, *({**t, "slack": "taken_up"} for t in tests)).suspects[0]
    assert (leader.key, leader.teeth) == (f"jump:{contact}", 1)


def test_a_mark_tells_a_slipped_wheel_from_a_late_cam(book: EngineBook) -> None:
    cams = {"cam_a_in": 9.0}
    mark = next(k for k, m in book.marks.items() if m.wheel == "cam_a_in" and m.is_timing)
    on_it = {
        "kind": "mark_miss",
        "part": mark,
        "miss_deg": 0.2,
        "stderr_deg": 0.5,
        "slack": "taken_up",
    }
    late_too = {**on_it, "miss_deg": 9.0}
    wheel = "tone:wheel_a_in"
    assert share(read(book, on_it, cams=cams), wheel) > 5 * share(
        read(book, late_too, cams=cams), wheel
    )


def test_what_was_put_in_since_is_young(book: EngineBook) -> None:
    new = {"kind": "replaced", "part": "chain_a", "hours_ago": 100}
    cams = {"cam_a_in": 6.0, "cam_a_ex": 6.0}
    with_it, without = read(book, new, cams=cams, hours=6000), read(book, cams=cams, hours=6000)
    assert with_it.readings_used == without.readings_used
    elongation = [next(w.median for w in v.wear if w.key == "chain_a") for v in (with_it, without)]
    assert elongation[0] < 0.6 * elongation[1]


def test_what_can_say_nothing_says_why(book: EngineBook) -> None:
    verdict = read(
        book,
        {"kind": "tool_fit", "part": "cam_a_ex", "crank_deg": 0, "fit": "does_not_start"},
        {"kind": "oil", "pressure_kpa": 60, "oil_c": 20},
        {"kind": "endoscope", "part": "guide_b", "finding": "not_seen"},
    )
    assert any("not read hot" in words for words in verdict.unused)
    assert any("could not be seen" in words for words in verdict.unused)
    assert any("its check is at 30°" in words for words in verdict.unused)
    assert verdict.suspects == [] or verdict.suspects[0].kind in ("sound", "none")


def test_an_intake_tells_what_it_says_and_no_more() -> None:
    assert told_tests({"complaint": "Rattles after the night."}) == []
    told = told_tests({"rattle": "cold_start", "stood_h": 12.0, "code_list": ["P0016"]})
    assert [t.kind for t in told] == ["complaint", "codes"]
    assert told[0].stood_h == 12.0
    assert codes_of(" p0016, P0018 P0016 ") == ["P0016", "P0018"]
    assert codes_of("none") == []
    assert codes_of("") is None
    with pytest.raises(ReadingError, match="not a fault code"):
        codes_of("P0016, lamp on")


def test_a_complaint_alone_gives_a_first_list(book: EngineBook) -> None:
    rattle = {"kind": "complaint", "rattle": "cold_start", "stood_h": 14}
    verdict = read(book, rattle, {"kind": "codes", "codes": ["P0016"]}, accessories="excluded")
    named = {s.key for s in verdict.suspects[:12]}
    assert {"leak:tensioner_a", "lock_pin:phaser_a"} <= named
    assert "No readings yet" not in verdict.headline
    assert share(verdict, "accessory") < 0.1


def test_a_test_of_a_part_the_book_has_not_is_refused(book: EngineBook) -> None:
    with pytest.raises(ReadingError, match="no such phaser"):
        read(book, {"kind": "sweep", "part": "phaser_z", "found": []})
