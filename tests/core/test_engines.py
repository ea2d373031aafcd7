"""All seven shipped engines: what their books say must follow from their own geometry."""

from fractions import Fraction
from pathlib import Path

import pytest
from bench.geometry import first_turn_by_simulation

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.chain import ChainDrive, ChainWear
from flaneur.core.drive.counts import counts, shifted_counts
from flaneur.core.drive.lash import chain_lash_deg, freed_links, shaft_lash_deg, stop_mm
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back
from flaneur.core.errors import BookError
from flaneur.formats.books import book_checks, load_book
from flaneur.simulation.placement import closing_plunger_mm, placed_lags_deg

ENGINES = sorted((Path(__file__).parents[2] / "engines").glob("*.yaml"))
BOOKS = {p.stem: load_book(p) for p in ENGINES}
every_book = pytest.mark.parametrize("name", BOOKS)


def drives(book: EngineBook) -> list[ChainDrive]:
    return list(DriveTrain(book).chains.values())


def test_the_seven_engines_cover_every_layout() -> None:
    assert set(BOOKS) == {
        *(
            "brindle-fennel",
            "dunmarrow-thistle",
            "ostrey-tansy",
            "ostrey-teasel",
            "quillon-sorrel",
            "skarne-burdock",
            "tarsel-comfrey",
        )
    }
    types = {chain.type for book in BOOKS.values() for chain in book.chains.values()}
    assert types == {"bush", "roller", "inverted_tooth", "toothed_belt"}
    fixed = {s.fixed_by for book in BOOKS.values() for s in book.sprockets.values()}
    assert {"key", "dowel", "slots", "phaser", "one_piece"} <= fixed
    assert any(not book.phasers for book in BOOKS.values())
    assert any(len(book.planes) == 2 for book in BOOKS.values())
    assert any(not book.tone_wheels for book in BOOKS.values())
    assert any(not d.has_tensioner for book in BOOKS.values() for d in drives(book))
    assert BOOKS["brindle-fennel"].service_position.crank_deg != 0


@every_book
def test_no_check_of_a_shipped_book_fails(name: str) -> None:
    checks = book_checks(BOOKS[name])
    assert [c.line for c in checks if not c.holds] == []
    assert len(checks) > 10
    assert BOOKS[name].clearance is not None
    assert BOOKS[name].marks
    assert BOOKS[name].tools
    assert BOOKS[name].check_positions


@every_book
def test_every_loop_closes_at_the_book_extension(name: str) -> None:
    for drive in drives(BOOKS[name]):
        if drive.has_tensioner:
            assert drive.plunger_mm() == pytest.approx(drive.tensioner.book_plunger_mm, abs=0.05)
        else:
            assert 0 <= drive.slack_links() < 0.75


@every_book
def test_counts_go_once_round_the_chain_and_agree_with_the_marks(name: str) -> None:
    for drive in drives(BOOKS[name]):
        links = [c.links for c in drive.chain.counts]
        assert not links or sum(links) == drive.chain.links
        for count in drive.chain.counts:
            assert drive.mark_links(count.start, count.end) % drive.chain.links == pytest.approx(
                count.links, abs=0.15
            )


@every_book
def test_both_ways_round_a_pair_of_marks_add_up_to_the_whole_chain(name: str) -> None:
    train = DriveTrain(BOOKS[name])
    for chain, drive in train.chains.items():
        if not drive.chain.counts:
            continue
        found = {(c.start, c.end): c for c in counts(train, chain)}
        for (start, end), count in found.items():
            assert count.links + found[end, start].links == drive.chain.links
            assert count.exact == pytest.approx(count.links, abs=0.15)


@every_book
def test_coming_back_is_what_turning_shows(name: str) -> None:
    train = DriveTrain(BOOKS[name])
    said = coming_back(train)
    for chain, turns in said.chains.items():
        assert first_turn_by_simulation(train, chain) == turns
    for shaft, ratio in train.exact_ratio.items():
        turned, angle = 0, Fraction(1)
        while angle % 1 or not turned:
            turned += 1
            angle = turned / abs(ratio)
        assert said.shafts[shaft] == turned
    assert all(
        said.every % turns == 0
        for chain, turns in said.chains.items()
        if BOOKS[name].chains[chain].counts
    )


@every_book
def test_a_jumped_tooth_shows_in_the_counts_as_moving_its_mark_does(name: str) -> None:
    book = BOOKS[name]
    train = DriveTrain(book)
    for contact in train.contacts():
        chain, sprocket = contact.split("/")
        if sprocket == book.chains[chain].driver or not book.chains[chain].counts:
            continue
        part = book.sprockets[sprocket]
        running = 1 if book.planes[part.plane].running_direction == "clockwise" else -1
        late = part.model_copy(
            update={"mark_clock_deg": part.mark_clock_deg - running * 360 / part.teeth}
        )
        moved = ChainDrive(
            book.model_copy(update={"sprockets": {**book.sprockets, sprocket: late}}), chain
        )
        for (_, start, end), links in shifted_counts(train, contact, 1).items():
            assert moved.mark_links(start, end) % book.chains[chain].links == pytest.approx(
                links, abs=0.15
            )


def test_what_one_link_more_means_is_said_from_the_drivers_side() -> None:
    train = DriveTrain(BOOKS["ostrey-tansy"])
    found = {(c.start, c.end): c for c in counts(train, "chain_a")}
    out, back, across = (
        found["idler_a", "cam_a_in"],
        found["cam_a_in", "idler_a"],
        found["cam_a_in", "cam_a_ex"],
    )
    assert "one tooth early" in out.more
    assert "one tooth late" in out.less
    assert "one tooth late" in back.more
    assert "one tooth early" in back.less
    assert across.more.startswith("either ")
    assert "count both from the Idler outer row" in across.more
    assert "20.0° of the crank" in out.more


@every_book
def test_lag_of_a_worn_chain_is_that_of_a_chain_walked_link_by_link(name: str) -> None:
    for drive in drives(BOOKS[name]):
        wear = ChainWear(0.003)
        x = drive.plunger_mm(wear) if drive.has_tensioner else 0.0
        walked = placed_lags_deg(drive, wear, x)
        for sprocket, lag in drive.lags_deg(wear, x).items():
            assert lag == pytest.approx(walked[sprocket], abs=0.01)
        if drive.has_tensioner:
            moved = closing_plunger_mm(drive, wear) - closing_plunger_mm(drive, ChainWear())
            assert x - drive.tensioner.book_plunger_mm == pytest.approx(moved, abs=0.03)


def test_slack_of_a_chain_without_tensioner_grows_with_elongation_by_its_free_length() -> None:
    drive = drives(BOOKS["dunmarrow-thistle"])[0]
    free = sum(drive.book_path.strands_mm) / drive.pitch_mm
    assert drive.slack_links(ChainWear(0.01)) - drive.slack_links() == pytest.approx(
        free * (1 - 1 / 1.01), rel=1e-9
    )
    train = DriveTrain(BOOKS["dunmarrow-thistle"])
    assert shaft_lash_deg(train)["cam"] == pytest.approx(drive.slack_links() * 360 / 24)
    with pytest.raises(BookError, match="no tensioner"):
        drive.plunger_mm()


def test_a_ratchet_frees_one_step_and_a_spring_all_down_to_its_stop() -> None:
    tansy, burdock = drives(BOOKS["ostrey-tansy"]), drives(BOOKS["skarne-burdock"])
    ratchet = next(d for d in tansy if d.id == "chain_a")
    assert stop_mm(ratchet, 7.0) == 4.5
    assert stop_mm(burdock[0], 9.0) == 4.0
    assert freed_links(ratchet) == pytest.approx(
        ratchet.links_needed(7.0) - ratchet.links_needed(4.5), abs=1e-4
    )


def test_lash_adds_up_over_chains_in_series() -> None:
    train = DriveTrain(BOOKS["ostrey-tansy"])
    lash = shaft_lash_deg(train)
    assert lash["cam_a_in"] == pytest.approx(
        chain_lash_deg(train, "primary") + chain_lash_deg(train, "chain_a")
    )
    assert lash["idler"] == pytest.approx(chain_lash_deg(train, "primary"))


def test_gears_turn_the_balance_shaft_the_other_way() -> None:
    ratio = DriveTrain(BOOKS["ostrey-tansy"]).exact_ratio
    assert ratio["balance"] == -1
    assert ratio["cam_a_in"] == 2


@every_book
def test_counts_to_the_next_mark_go_once_round(name: str) -> None:
    train = DriveTrain(BOOKS[name])
    for chain, drive in train.chains.items():
        if drive.chain.counts:
            assert sum(c.links for c in counts(train, chain) if c.is_next) == drive.chain.links
