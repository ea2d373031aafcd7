"""Chain loops: against the textbook, against themselves, and against a chain laid out pin by
pin.
"""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import NEW, ChainWear
from flaneur.core.drive.loop import Disc, pitch_radius, solve_path
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults, after_repair
from flaneur.simulation.placement import placed_state


def textbook_links(z1: int, z2: int, pitch: float, distance: float) -> float:
    """Links round two sprockets: free strands plus wrapped teeth, sin φ = (R−r)/C."""
    r1, r2 = pitch_radius(pitch, z1), pitch_radius(pitch, z2)
    phi = math.asin((r2 - r1) / distance)
    free = 2 * math.sqrt(distance**2 - (r2 - r1) ** 2)
    return (
        free / pitch
        + z1 * (math.pi - 2 * phi) / (2 * math.pi)
        + z2 * (math.pi + 2 * phi) / (2 * math.pi)
    )


@given(
    st.integers(15, 60),
    st.integers(15, 60),
    st.floats(6, 14),
    st.floats(1.05, 6),
    st.floats(0, 2 * math.pi),
    st.sampled_from([1, -1]),
)
def test_two_sprockets_follow_the_textbook(
    z1: int, z2: int, pitch: float, spacing: float, heading: float, wrap: int
) -> None:
    distance = (pitch_radius(pitch, z1) + pitch_radius(pitch, z2)) * spacing
    near = Disc("a", 3.0, -2.0, pitch_radius(pitch, z1), wrap, z1)
    far = Disc(
        "b",
        3.0 + distance * math.cos(heading),
        -2.0 + distance * math.sin(heading),
        pitch_radius(pitch, z2),
        wrap,
        z2,
    )
    assert solve_path([near, far]).links(pitch, 0.0) == pytest.approx(
        textbook_links(z1, z2, pitch, distance), rel=1e-9
    )


def test_iso_606_pitch_radius() -> None:
    """ISO 606, 06B (p = 9.525 mm), 21 teeth: pitch diameter 63.91 mm."""
    assert 2 * pitch_radius(9.525, 21) == pytest.approx(63.91, abs=0.005)


def test_turns_of_a_loop_add_up_to_one(train: DriveTrain) -> None:
    for drive in train.chains.values():
        path = drive.book_path
        assert sum(
            d.wrap * t for d, t in zip(path.discs, path.turns, strict=True)
        ) == pytest.approx(2 * math.pi)


def test_a_guide_the_chain_has_left_is_dropped(train: DriveTrain) -> None:
    drive = train.chains["chain_a"]
    discs = [
        Disc(d.id, d.x, d.y, d.radius - (40 if d.id == "guide_a" else 0), d.wrap, d.teeth)
        for d in drive.discs(7.0)
    ]
    path = solve_path(discs)
    assert path.dropped == ("guide_a",)
    assert path.links(8.0, 0.0) < drive.book_path.links(8.0, 0.0)


def test_faces_that_overlap_are_refused() -> None:
    with pytest.raises(BookError, match="overlap"):
        solve_path([Disc("a", 0, 0, 30, 1, 20), Disc("b", 20, 0, 60, 1, 40)])


def test_a_new_drive_has_no_lag_and_stands_at_the_book_extension(train: DriveTrain) -> None:
    state = train.state(Faults())
    assert all(abs(v) < 0.01 for v in state.deviation_deg.values())
    assert set(state.plunger_mm) == {"primary", "chain_a", "chain_b"}
    for chain, drive in ((c, train.chains[c]) for c in state.plunger_mm):
        assert state.plunger_mm[chain] == pytest.approx(drive.tensioner.book_plunger_mm, abs=0.01)


@pytest.mark.parametrize("elongation", [0.001, 0.003, 0.005])
def test_lag_is_elongation_times_tight_strand_over_radius(
    train: DriveTrain, elongation: float
) -> None:
    for drive in train.chains.values():
        path = drive.book_path
        for sprocket in drive.driven:
            i = path.index(sprocket)
            m = path.links_between(i, path.index(drive.chain.driver), drive.pitch_mm, 0.0)
            teeth_between = sum(
                path.turns[k] * path.discs[k].teeth / (2 * math.pi)
                for k in range(i + 1, len(path.discs))
                if path.discs[k].teeth
            )
            length = (m - teeth_between) * drive.pitch_mm
            simple = math.degrees(elongation * length / path.discs[i].radius)
            # Teeth do not stretch, so only free strands and guide arcs count; the rest is the arm's
            # small swing.
            assert drive.lags_deg(ChainWear(elongation))[sprocket] == pytest.approx(
                simple, rel=0.03
            )


def test_guide_wear_moves_lag_by_wear_times_turn_over_radius(train: DriveTrain) -> None:
    drive = train.chains["chain_a"]
    path = drive.book_path
    turn = path.turns[path.index("guide_a")]
    lag = drive.lags_deg(ChainWear(0.0, (("guide_a", 0.1),)))["cam_a_ex"]
    assert math.radians(lag) == pytest.approx(
        0.1 * turn / path.discs[path.index("cam_a_ex")].radius, rel=0.02
    )


def test_arm_wear_moves_the_plunger_and_not_the_cams(train: DriveTrain, book: EngineBook) -> None:
    state = train.state(Faults(liner_wear_mm={"arm_b": 2.5}))
    assert max(abs(v) for v in state.deviation_deg.values()) < 0.01
    assert state.plunger_mm["chain_b"] > book.tensioners["tensioner_b"].book_plunger_mm + 2


def test_elongation_and_guide_wear_take_up_chain_in_another_ratio_to_lag(train: DriveTrain) -> None:
    drive = train.chains["chain_a"]

    def ratio(wear: ChainWear) -> float:
        x = drive.plunger_mm(wear)
        return drive.lags_deg(wear, x)["cam_a_ex"] / drive.taken_up_mm(x)

    assert ratio(ChainWear(0.0, (("guide_a", 1.0),))) > 1.8 * ratio(ChainWear(0.003))


@settings(deadline=None, max_examples=25)
@given(
    st.floats(0, 1.0), st.floats(0, 1.0), st.floats(0, 5.0), st.floats(0, 5.0), st.integers(-1, 1)
)
def test_laying_the_chain_pin_by_pin_agrees(
    book: EngineBook,
    train: DriveTrain,
    stretch: float,
    other: float,
    guide: float,
    arm: float,
    teeth: int,
) -> None:
    faults = Faults(
        elongation_pct={"chain_b": stretch, "primary": other},
        liner_wear_mm={"guide_b": guide, "arm_b": arm, "guide_p": guide / 2},
        jumped_teeth={"chain_b/cam_b_ex": teeth} if teeth else {},
    )
    laid, solved = placed_state(book, faults), train.state(faults)
    for cam in book.cams:
        assert laid.deviation_deg[cam] == pytest.approx(solved.deviation_deg[cam], abs=0.06)
    assert set(laid.plunger_mm) == set(solved.plunger_mm) == {"primary", "chain_a", "chain_b"}
    for chain in solved.plunger_mm:
        assert laid.plunger_mm[chain] == pytest.approx(solved.plunger_mm[chain], abs=0.12)


@pytest.mark.parametrize(
    ("contact", "moved"),
    [
        (
            "primary/crank",
            {
                "cam_a_in": 360 / 21,
                "cam_a_ex": 360 / 21,
                "cam_b_in": 360 / 21,
                "cam_b_ex": 360 / 21,
            },
        ),
        (
            "primary/idler_in",
            {
                "cam_a_in": 360 / 21,
                "cam_a_ex": 360 / 21,
                "cam_b_in": 360 / 21,
                "cam_b_ex": 360 / 21,
            },
        ),
        ("chain_a/idler_a", {"cam_a_in": 20.0, "cam_a_ex": 20.0}),
        ("chain_a/cam_a_in", {"cam_a_in": 20.0}),
        ("chain_b/cam_b_ex", {"cam_b_ex": 20.0}),
    ],
)
def test_a_jump_belongs_to_one_contact(
    book: EngineBook, train: DriveTrain, contact: str, moved: dict[str, float]
) -> None:
    for state in (
        train.state(Faults(jumped_teeth={contact: 1})),
        placed_state(book, Faults(jumped_teeth={contact: 1})),
    ):
        for cam in book.cams:
            assert state.deviation_deg[cam] == pytest.approx(moved.get(cam, 0.0), abs=0.02)


def test_a_jump_leaves_the_plunger(train: DriveTrain) -> None:
    state = train.state(Faults(jumped_teeth={"chain_a/idler_a": 2}))
    assert state.plunger_mm == pytest.approx(train.state(Faults()).plunger_mm)


def test_counts_between_marks_are_the_books(train: DriveTrain) -> None:
    for drive in train.chains.values():
        for count in drive.chain.counts:
            assert drive.mark_links(count.start, count.end) == pytest.approx(count.links, abs=0.01)


def test_the_plunger_marches_to_its_stop_when_the_chain_is_hopeless(train: DriveTrain) -> None:
    drive = train.chains["chain_a"]
    assert drive.plunger_mm(ChainWear(0.05)) == pytest.approx(
        drive.tensioner.max_plunger_mm, abs=0.26
    )
    with pytest.raises(BookError, match="does not fit"):
        drive.plunger_mm(ChainWear(-0.05))


def test_wear_of_a_new_chain_is_nothing() -> None:
    assert NEW.of("guide_a") == 0.0


def test_faults_of_another_engine_are_refused(book: EngineBook) -> None:
    with pytest.raises(BookError) as refused:
        Faults(jumped_teeth={"chain_c/cam": 1}, elongation_pct={"chain_q": 0.2}).check_against(book)
    assert len(refused.value.lines) == 2
    assert "chain_q" in refused.value.lines[0]


def test_only_what_was_renewed_becomes_new(book: EngineBook) -> None:
    hidden = Faults(
        elongation_pct={"chain_a": 0.8, "chain_b": 0.6},
        liner_wear_mm={"guide_a": 2.0, "arm_a": 1.0},
        jumped_teeth={"chain_a/cam_a_in": 1, "chain_b/cam_b_in": 1},
        phaser_offset_deg={"phaser_a": -9.0},
        tone_wheel_offset_deg={"wheel_a_in": 0.3},
    )
    after = after_repair(hidden, book, ["chain_a_part", "guide_a"], ["arm_a"], {})
    assert after.elongation_pct == {"chain_b": 0.6}
    assert after.liner_wear_mm == {"arm_a": 1.0}
    assert after.jumped_teeth == {"chain_b/cam_b_in": 1}
    assert after.phaser_offset_deg == {"phaser_a": -9.0}
    assert after.tone_wheel_offset_deg == {"wheel_a_in": 0.3}


def test_a_chain_that_went_back_on_stands_where_it_was_set(book: EngineBook) -> None:
    hidden = Faults(elongation_pct={"chain_b": 0.6}, jumped_teeth={"chain_b/cam_b_in": 1})
    wrong = after_repair(
        hidden, book, [], ["chain_b_part"], {"chain_b/cam_b_ex": -1, "chain_a/cam_a_in": 1}
    )
    assert wrong.jumped_teeth == {"chain_b/cam_b_ex": -1}
    assert wrong.elongation_pct == {"chain_b": 0.6}
    assert after_repair(wrong, book, [], ["chain_b_part"], {}).jumped_teeth == {}
