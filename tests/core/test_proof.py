"""What a person is shown on the way: ladder, part states, next action."""

import itertools
import re
from dataclasses import replace

import pytest
from demo.depot import JOBS, UNITS
from tests.core.test_diagnosis import readings_of
from tests.core.test_engines import BOOKS

from flaneur.core.book.schema import EngineBook
from flaneur.core.diagnosis.verdict import diagnose
from flaneur.core.faults.model import Faults
from flaneur.core.job.progress import STAGES, JobFacts, Step, next_action
from flaneur.core.job.states import part_states
from flaneur.core.picture.ladder import Ladder, LadderRow, make_ladder
from flaneur.core.picture.ladder_svg import ladder_drawings, ladder_svg
from flaneur.core.picture.theme import PAPER, SCREEN
from flaneur.core.proof.baseline import own_baseline_deg
from flaneur.core.readings.taken import CamReading, PhaserState, Readings

PARKED = PhaserState(state="parked")


def cam(
    name: str, deviation: float, state: PhaserState = PARKED, stderr: float = 0.1
) -> CamReading:
    return CamReading(
        id=f"{name}{deviation}", cam=name, deviation_deg=deviation, stderr_deg=stderr, phaser=state
    )


def row_of(ladder: Ladder, name: str) -> LadderRow:
    return next(r for r in ladder.rows if r.cam == name)


def test_the_ladder_has_a_row_for_every_cam_even_unread(book: EngineBook) -> None:
    ladder = make_ladder(book, [], {})
    assert [r.cam for r in ladder.rows] == book.cams
    assert all(r.rungs == [] for r in ladder.rows)
    assert ladder.low_deg < 0 < row_of(ladder, "cam_a_in").teeth[-1].deg < ladder.high_deg


def test_the_last_of_each_phase_counts_and_older_ones_are_ghosts(book: EngineBook) -> None:
    pairs = [
        ("before", cam("cam_a_ex", 6.0)),
        ("before", cam("cam_a_ex", 6.3)),
        ("after", cam("cam_a_ex", 0.1)),
    ]
    rungs = row_of(make_ladder(book, pairs, {}), "cam_a_ex").rungs
    assert [(g.phase, g.is_ghost) for g in rungs] == [
        ("before", True),
        ("before", False),
        ("after", False),
    ]
    assert rungs[1].low_deg == pytest.approx(6.3 - 1.645 * 0.1, abs=1e-3)


def test_a_commanded_phaser_is_taken_out_of_the_reading(book: EngineBook) -> None:
    rung = row_of(
        make_ladder(
            book,
            [("before", cam("cam_a_in", -18.0, PhaserState(state="commanded", command_deg=20)))],
            {},
        ),
        "cam_a_in",
    ).rungs[0]
    assert rung.at_deg == pytest.approx(2.0)
    assert "commanded 20°" in rung.words


def test_an_unknown_phaser_reaches_over_its_range_to_the_late_side(book: EngineBook) -> None:
    rung = row_of(
        make_ladder(book, [("before", cam("cam_a_in", -10.0, PhaserState()))], {}), "cam_a_in"
    ).rungs[0]
    assert not rung.is_known
    assert rung.low_deg == pytest.approx(-10.0, abs=0.2)
    assert rung.high_deg == pytest.approx(-10.0 + book.phasers["phaser_a"].range_deg, abs=0.2)


def test_a_reading_near_whole_teeth_says_so(book: EngineBook) -> None:
    ladder = make_ladder(
        book, [("before", cam("cam_b_ex", 17.4)), ("before", cam("cam_b_in", 8.0))], {}
    )
    assert "near 1 tooth" in row_of(ladder, "cam_b_ex").rungs[0].words
    assert "near" not in row_of(ladder, "cam_b_in").rungs[0].words
    own = make_ladder(book, [("before", cam("cam_b_in", 20.4))], {})
    assert "near 1 tooth" in row_of(own, "cam_b_in").rungs[0].words
    teeth = {tooth.name: tooth.deg for tooth in row_of(own, "cam_b_in").teeth}
    assert teeth == {
        "Primary chain": pytest.approx(17.14, abs=0.01),
        "Secondary chain B (2-4-6)": pytest.approx(20.0),
    }


def test_the_scale_grows_with_the_reading(book: EngineBook) -> None:
    wide = make_ladder(
        book, [("before", cam("cam_b_ex", 51.0)), ("before", cam("cam_a_ex", -30.0))], {}
    )
    assert wide.low_deg < -30
    assert wide.high_deg > 51


def test_the_picture_on_paper_carries_every_reading_and_escapes_names(book: EngineBook) -> None:
    ladder = make_ladder(
        book, [("before", cam("cam_a_ex", 6.3)), ("after", cam("cam_a_ex", 0.2))], {"cam_a_ex": 0.1}
    )
    odd = ladder.model_copy(
        update={
            "rows": [
                r.model_copy(update={"name": "<cam & co>", "title": "<cam & co>"})
                for r in ladder.rows
            ]
        }
    )
    picture = ladder_svg(odd, PAPER)
    assert picture.count("Rcam_a_ex") == 2
    assert "before: 6.3° late" in picture
    assert ladder_svg(make_ladder(book, [], {}), PAPER) == ""
    assert "1 tooth" in picture
    assert "&lt;cam &amp; co&gt;" in picture
    assert "<cam" not in picture


@pytest.mark.parametrize(
    ("pairs", "finding"),
    [
        ([], ""),
        ([("cam_a_ex", 2.0, PARKED)], "Every cam read so far (1) stands within 3.5° of the book."),
        (
            [("cam_a_ex", 6.3, PARKED)],
            "Exhaust cam, bank A (1-3-5) stands 6.3° late: more than 3.5°, less than a tooth.",
        ),
        (
            [("cam_a_ex", 6.3, PARKED), ("cam_b_in", -23.4, PARKED)],
            "Intake cam, bank B (2-4-6) stands 23.4° early: as much as 1 tooth of the secondary "
            "chain B (2-4-6) and 3.4° more.",
        ),
        (
            [("cam_a_in", -10.0, PhaserState())],
            "Not settled: the phaser of the intake cam, bank A (1-3-5) may stand anywhere.",
        ),
    ],
)
def test_the_ladder_says_what_it_comes_to(
    book: EngineBook, pairs: list[tuple[str, float, PhaserState]], finding: str
) -> None:
    read = [("before", cam(name, deg, state)) for name, deg, state in pairs]
    assert make_ladder(book, read, {}).finding == finding


def test_the_ladder_is_drawn_for_every_width_with_letters_of_the_same_size(
    book: EngineBook,
) -> None:
    ladder = make_ladder(book, [("before", cam("cam_a_ex", 7.0))], {})
    drawn = ladder_drawings(ladder, SCREEN)
    assert ladder_drawings(make_ladder(book, [], {}), SCREEN) == []
    sizes = [set(re.findall(r'font-size="([\d.]+)"', d.svg)) for d in drawn]
    assert all(found == sizes[0] for found in sizes)
    assert min(float(size) for size in sizes[0]) >= 13
    for d in drawn:
        assert f'viewBox="0 0 {d.least_px:g} ' in d.svg
        right = [float(x) for x in re.findall(r'x="([\d.]+)"', d.svg)]
        assert max(right) <= d.least_px, "nothing past its edge"
        assert 'stroke="var(--' in d.svg


def test_no_name_on_the_ladder_lies_over_another(book: EngineBook) -> None:
    text = re.compile(
        r'<text x="([\d.]+)" y="([\d.]+)" font-size="13.5" [^>]*text-anchor="(\w+)"[^>]*>([^<]+)<'
    )
    for before, after in ((7.0, 1.0), (2.4, 1.9), (12.0, 9.0), (17.0, 16.0)):
        read = [("before", cam("cam_b_in", before)), ("after", cam("cam_b_in", after))]
        boxes = list[tuple[float, float, float, str]]()
        for x, y, anchor, words in text.findall(ladder_svg(make_ladder(book, read, {}), PAPER)):
            long = 6.0 * len(words)
            left = float(x) - {"start": 0.0, "middle": 0.5, "end": 1.0}[anchor] * long
            boxes.append((left, left + long, float(y), words))
        assert any("after R" in words for *_, words in boxes)
        for one, two in itertools.combinations(boxes, 2):
            is_apart = one[1] <= two[0] or two[1] <= one[0] or abs(one[2] - two[2]) >= 11
            assert is_apart, (before, one, two)


def test_a_figures_way_to_its_limit_is_a_bar_that_grows_towards_a_notch(book: EngineBook) -> None:
    def bar(deg: float) -> tuple[float, str]:
        svg = ladder_svg(make_ladder(book, [("before", cam("cam_a_ex", deg))], {}), PAPER)
        found = re.search(r'width="([\d.]+)" height="6" fill="(#\w+)"', svg)
        assert found
        return float(found[1]), found[2]

    half, at, far = bar(1.75), bar(3.5), bar(35.0)
    assert half[0] == pytest.approx(at[0] / 2, abs=0.1)
    assert at[0] < far[0]
    assert (half[1], far[1]) == (PAPER.steel_light, PAPER.red)


def test_a_part_without_reading_is_unknown_not_safe(book: EngineBook) -> None:
    for verdict in (
        None,
        diagnose(book, Readings(engine=book.name, hours=100), with_evidence=False),
    ):
        assert set(part_states(book, verdict, [], set()).values()) == {"unknown"}


def test_parts_carry_what_is_known_and_what_was_done(book: EngineBook) -> None:
    verdict = diagnose(
        book, readings_of(book, Faults(elongation_pct={"chain_a": 0.9})), with_evidence=False
    )
    states = part_states(book, verdict, [], set())
    assert states["chain_a"] == "over"
    assert states["chain_b"] == "within"
    planned = part_states(book, verdict, ["chain_a_part", "guide_a"], {"guide_a"})
    assert (planned["chain_a"], planned["guide_a"]) == ("to_renew", "renewed")


def test_a_jumped_sprocket_is_suspected(book: EngineBook) -> None:
    verdict = diagnose(
        book, readings_of(book, Faults(jumped_teeth={"chain_b/cam_b_in": 1})), with_evidence=False
    )
    assert part_states(book, verdict, [], set())["cam_b_in"] == "suspected"


def test_a_baseline_is_kept_only_where_nothing_old_is_in_it(book: EngineBook) -> None:
    after = [cam(c, 0.2) for c in book.cams]
    side_b = ["chain_b_part", "guide_b"]
    assert own_baseline_deg(book, after, side_b) == {}
    assert set(own_baseline_deg(book, after, [*side_b, "chain_p", "guide_p"])) == {
        "cam_b_in",
        "cam_b_ex",
    }
    assert own_baseline_deg(book, after, [*side_b, "chain_p"]) == {}, "the primary guide is old"
    unknown = [cam("cam_b_in", 0.2, PhaserState()), cam("cam_b_ex", 0.3)]
    assert own_baseline_deg(book, unknown, [*side_b, "chain_p", "guide_p"]) == {"cam_b_ex": 0.3}


START = JobFacts(
    has_complaint=False,
    readings_before=0,
    has_plan=False,
    is_agreed=False,
    bench_started=False,
    steps_total=0,
    steps_done=0,
    next_step=None,
    hand_turns=2,
    turned_by_hand=False,
    captured_after=False,
    can_capture=True,
    released=False,
    signed=False,
)
ON_BENCH = replace(
    START,
    has_complaint=True,
    readings_before=4,
    has_plan=True,
    bench_started=True,
    steps_total=9,
    steps_done=9,
)


@pytest.mark.parametrize(
    ("facts", "stage", "words"),
    [
        (START, "intake", "complaint"),
        (replace(START, has_complaint=True), "readings", "capture"),
        (
            replace(START, has_complaint=True, can_capture=False),
            "readings",
            "marks, lash and lengths",
        ),
        (replace(ON_BENCH, turned_by_hand=True, can_capture=False), "proof", "by its marks"),
        (replace(START, has_complaint=True, readings_before=4), "verdict", "verdict"),
        (replace(START, readings_before=4, has_plan=True), "plan", "the estimate"),
        (
            replace(START, readings_before=4, has_plan=True, is_agreed=True),
            "plan",
            "parts and tools",
        ),
        (
            replace(ON_BENCH, steps_done=3, next_step=Step(4, "Arm A on", "fit:arm_a")),
            "bench",
            "Step 4 of 9: Arm A on.",
        ),
        (ON_BENCH, "proof", "Turn 2 crank turns by hand"),
        (replace(ON_BENCH, hand_turns=3), "proof", "Turn 3 crank turns by hand"),
        (replace(ON_BENCH, turned_by_hand=True), "proof", "second capture"),
        (replace(ON_BENCH, turned_by_hand=True, captured_after=True), "proof", "Release"),
        (replace(ON_BENCH, released=True), "handover", "lead"),
        (replace(ON_BENCH, released=True, signed=True), "done", "frozen"),
    ],
)
def test_the_next_action_is_the_first_thing_missing(
    facts: JobFacts, stage: str, words: str
) -> None:
    action = next_action(facts)
    assert action.stage == stage
    assert words in action.words
    assert action.stage in (*STAGES, "done")


def test_the_demo_depot_belongs_to_its_books() -> None:
    books = {book.name: book for book in BOOKS.values()}
    assert {unit.engine for unit in UNITS} == set(books)
    assert len({job.until for job in JOBS}) >= 5
    for unit in UNITS:
        unit.faults.check_against(books[unit.engine])
    engines = {unit.tag: books[unit.engine] for unit in UNITS}
    for job in JOBS:
        assert set(job.scope) <= set(engines[job.tag].components)
