"""An engine book that is wrong says where, one line per fault."""

from collections.abc import Callable

import pytest
from tests.support.raw import read_yaml, write_yaml

from flaneur.core.book.loading import parse_book
from flaneur.core.errors import BookError
from flaneur.formats.books import check_book

Change = Callable[[dict], None]


def broken(text: str, change: Change) -> list[str]:
    """Faults of the shipped book after one change."""
    raw = read_yaml(text)
    change(raw)
    with pytest.raises(BookError) as refused:
        check_book(write_yaml(raw))
    return refused.value.lines


def test_the_shipped_book_has_no_fault(book_text: str) -> None:
    assert check_book(book_text).name == "Ostrey Tansy"


def _drop(raw: dict, *path: str) -> None:
    for key in path[:-1]:
        raw = raw[key]
    del raw[path[-1]]


def _put(raw: dict, value: object, *path: str | int) -> None:
    for key in path[:-1]:
        raw = raw[key]
    raw[path[-1]] = value


@pytest.mark.parametrize(
    ("change", "path"),
    [
        (lambda r: _drop(r, "chains", "primary", "links"), "chains.primary.links"),
        (lambda r: _put(r, "many", "sprockets", "crank", "teeth"), "sprockets.crank.teeth"),
        (lambda r: _put(r, 1, "chains", "primary", "lenght"), "chains.primary.lenght"),
        (lambda r: _put(r, "nothing", "sprockets", "crank", "shaft"), "sprockets.crank.shaft"),
        (lambda r: _put(r, "cam_x", "chains", "chain_a", "loop", 2), "chains.chain_a.loop.2"),
        (lambda r: _put(r, "idler_in", "chains", "primary", "driver"), "chains.primary.loop"),
        (
            lambda r: _put(r, ["lid"], "components", "chain_p", "covered_by"),
            "components.chain_p.covered_by",
        ),
        (
            lambda r: _put(r, ["glue"], "components", "front_cover", "fasteners"),
            "components.front_cover.fasteners",
        ),
        (
            lambda r: _put(r, {"cautions": ["fear"]}, "components", "front_cover", "remove"),
            "components.front_cover.remove.cautions",
        ),
        (lambda r: _put(r, ["op:dance"], "operations", "fill", "after"), "operations.fill.after"),
        (lambda r: _put(r, ["eat:lunch"], "operations", "fill", "after"), "operations.fill.after"),
        (
            lambda r: _put(r, 9.0, "guides", "guide_a", "limit_wear_mm"),
            "guides.guide_a.limit_wear_mm",
        ),
        (lambda r: _put(r, "crank", "tone_wheels", "wheel_a_in", "channel"), "tone_wheels"),
        (
            lambda r: _put(r, [[95, 20]], "tone_wheels", "wheel_a_in", "vanes_deg"),
            "tone_wheels.wheel_a_in.vanes_deg",
        ),
        (lambda r: _put(r, float("nan"), "signals", "low_v"), "signals.low_v"),
        (lambda r: _put(r, "engine-book/7", "format"), "format"),
    ],
)
def test_a_fault_is_named_with_its_path(book_text: str, change: Change, path: str) -> None:
    assert any(line.startswith(path) for line in broken(book_text, change))


def test_link_counts_that_do_not_come_out_are_refused_with_the_figure(book_text: str) -> None:
    faults = broken(book_text, lambda r: _put(r, 171.0, "sprockets", "crank", "mark_clock_deg"))
    assert any(
        "from crank to idler_in, expected 33 links" in line and "the geometry gives" in line
        for line in faults
    )


def test_a_wrong_number_of_links_is_refused(book_text: str) -> None:
    faults = broken(book_text, lambda r: _put(r, 68, "chains", "primary", "links"))
    assert any(
        line.startswith("chains.primary.links: 68 links close at no extension from 0 to 24 mm")
        and "takes 66.0" in line
        for line in faults
    )


def test_a_cam_that_does_not_turn_at_half_speed_is_refused(book_text: str) -> None:
    def change(raw: dict) -> None:
        raw["sprockets"]["cam_a_in"]["teeth"] = 34

    assert any(
        "shafts.cam_a_in" in line and "expected once in 2" in line
        for line in broken(book_text, change)
    )


def test_rules_that_go_in_a_circle_are_refused(book_text: str) -> None:
    raw = read_yaml(book_text)
    raw["components"]["cam_cover_a"]["covered_by"] = ["front_cover"]
    with pytest.raises(BookError) as refused:
        check_book(write_yaml(raw))
    assert any(
        "go round in a circle" in line and "front_cover" in line for line in refused.value.lines
    )


@pytest.mark.parametrize("text", ["", "- a\n- b\n", "just words", "key: [1, 2"])
def test_what_is_no_book_is_refused(text: str) -> None:
    with pytest.raises(BookError) as refused:
        parse_book(text)
    assert len(refused.value.lines) == 1


@pytest.mark.parametrize(
    "text", ["a: " + "[" * 400_000, "- " * 300_000 + "x", "a: " + "{b: " * 200 + "1" + "}" * 200]
)
def test_what_is_nested_without_end_is_refused_and_not_followed(text: str) -> None:
    with pytest.raises(BookError) as refused:
        parse_book(text)
    assert "nested more than 30 deep" in refused.value.lines[0]


def test_a_changed_limit_changes_the_book(book_text: str) -> None:
    raw = read_yaml(book_text)
    raw["limits"]["cam_deviation_deg"] = 2.25
    assert parse_book(write_yaml(raw)).limits.cam_deviation_deg == 2.25
