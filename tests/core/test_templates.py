"""What is done at the bench, written once: every template whole, every text filled with what a book
knows, and nothing said that a book has not.
"""

import re
from collections.abc import Iterator
from typing import Any

import pytest
from tests.core.test_book_checks import faults, put
from tests.core.test_engines import BOOKS
from tests.support.cluster import ROOT
from tests.support.raw import read_yaml

from flaneur.core.book.templates.expand import expand
from flaneur.core.book.templates.facts import BookFacts
from flaneur.core.book.templates.model import Template, shipped
from flaneur.core.book.templates.raw import number_words, with_article
from flaneur.core.book.templates.tasks import filled_task
from flaneur.core.book.templates.words import HOLE, Nothing, Words
from flaneur.core.wording import joined

TEMPLATES = shipped()
OPERATIONS = list(TEMPLATES.operations.items())
HALVES = [
    (f"{kind}.{half}", getattr(pair, half))
    for kind, pair in TEMPLATES.parts.items()
    for half in ("remove", "fit")
]
EVERY = [*OPERATIONS, *HALVES]
# What a book knows of the part named by ``of`` (or of the component itself), and of its drive.
FACTS = {
    *("name", "the", "covers", "bolts", "part", "chain", "chain_parts", "own_contacts", "cam"),
    *("cam_the", "limit", "least", "counts", "contacts", "counts_said", "driver_the", "arm_the"),
    *("release_text", "plunger", "plunger_least", "plunger_most", "in_guides", "pin_first"),
    "port_back",
    *("drive", "reads", "reads_names", "by_deg", "low", "high", "mark_name"),
    "marks_read",
}
OF_EACH = {"from", "to", "links", "what", "ask", "contact", "code"}
WAYS = ("Said", "within", "words", "Words", "names", "the", "name", "text")

MINI: dict[str, Any] = {
    "name": "Mini",
    "shafts": {"cam": {"name": "Cam, front head", "kind": "cam"}},
    "sprockets": {"wheel": {"name": "Cam sprocket", "shaft": "cam"}},
    "chains": {"chain": {"name": "Timing chain", "loop": ["wheel"], "counts": []}},
    "tensioners": {
        "tensioner": {
            "name": "Tensioner A",
            "release": "Pull the pin.",
            "book_plunger_mm": 4,
            "max_plunger_mm": 12,
        }
    },
    "arms": {"arm": {"name": "Arm", "chain": "chain", "tensioner": "tensioner"}},
    "marks": {"dot": {"name": "Dot of the cam", "wheel": "wheel"}},
    "tools": {"bar": {"name": "Cam bar", "text": "Over both flats."}},
    "fasteners": {"bolt": {"name": "Bolts", "count": 2, "stages": ["12 Nm"]}},
    "components": {
        "lid": {"kind": "cover", "name": "Front cover"},
        "tensioner_part": {
            "kind": "tensioner",
            "part": "tensioner",
            "covered_by": ["lid"],
            "fasteners": ["bolt"],
        },
    },
    "operations": {},
}


def mini(**more: Any) -> dict[str, Any]:
    return {**MINI, **more}


def words(**known: Any) -> Words:
    return Words(BookFacts(MINI), known)


def every_text(template: Template) -> Iterator[str]:
    """All that a template says and refers to."""

    def within(value: Any) -> Iterator[str]:
        if isinstance(value, str):
            yield value
        elif isinstance(value, list):
            for item in value:
                yield from within(item)
        elif isinstance(value, dict):
            for key, item in value.items():
                yield from within(key)
                yield from within(item)

    yield from within(template.model_dump(exclude={"params", "ways", "observe"}))
    yield from within(template.ways)
    for observe in template.observe:
        yield from within({k: v for k, v in observe.items() if k != "each"})


@pytest.mark.parametrize(("name", "template"), EVERY, ids=[n for n, _ in EVERY])
def test_every_placeholder_stands_for_something_that_can_be_known(
    name: str, template: Template
) -> None:
    known = FACTS | set(template.params)
    each = {str(o.get("each")) for o in template.observe} - {"None"}
    assert each <= known
    if each:
        known |= OF_EACH
    for text in every_text(template):
        for hole in HOLE.findall(text):
            base, _, way = hole.rpartition("_")
            assert hole in known or (way in WAYS and base in known), f"{{{hole}}} in “{text}”"
    if template.ways:
        assert template.params["how"].default in template.ways


@pytest.mark.parametrize(("name", "template"), EVERY, ids=[n for n, _ in EVERY])
def test_every_template_asks_for_something_and_cautions_with_known_words(
    name: str, template: Template
) -> None:
    assert set(template.cautions) <= set(TEMPLATES.cautions)
    codes = [(str(o.get("each")), str(o["code"])) for o in template.observe]
    assert len(codes) == len(set(codes)), "an observation is told by its code"
    for observe in template.observe:
        choices = observe.get("choices")
        if isinstance(choices, dict):
            assert set(observe["right"]) <= set(choices)  # type: ignore[arg-type]
        if observe["kind"] == "count":
            assert "expected" in observe
    assert template.right_when
    assert template.otherwise


def test_every_template_and_kind_serves_some_engine() -> None:
    used = set[str]()
    for book in BOOKS.values():
        used |= {str(o.template) for o in book.operations.values()}
        used |= {str(c.kind) for c in book.components.values()}
        for way in book.ways.values():
            used |= {str(o.template) for o in way.operations.values()}
            used |= {str(c.kind) for c in way.components.values()}
    assert set(TEMPLATES.operations) | set(TEMPLATES.parts) == used


def test_what_a_placeholder_may_be_said_as() -> None:
    said = words(n=6, tool="bar", tools=["bar"], what="new gasket", marks=["dot"])
    assert said.fill("{n_Words} plugs, {n_words}, {n}") == "Six plugs, six, 6"
    assert said.fill("{tool_name}: {tool_text} The {tool_within}.") == (
        "Cam bar: Over both flats. The cam bar."
    )
    assert said.fill("{what_Said}. {marks_names}; {tools_the}") == (
        "New gasket. dot of the cam; the cam bar"
    )
    with pytest.raises(Nothing):
        said.fill("{nobody}")
    with pytest.raises(Nothing):
        said.fill("{nobody_Said}")


def test_a_sentence_without_its_fact_is_left_out_and_a_wording_gives_way_to_the_next() -> None:
    said = words(the="the cover", corners=None, gasket="new gasket")
    pieces = ["Degrease.", "A bead at {corners}.", "{gasket_Said} in.", "{the_Said} on."]
    assert said.sentences(pieces) == "Degrease. New gasket in. The cover on."
    assert said.first_said("Bead at {corners}? | {gasket_Said}? | Flat?") == "New gasket?"
    assert said.first_said("Bead at {corners}? | Flat?") == "Flat?"
    assert said.sentences(["Bead at {corners}. | No bead."]) == "No bead."


def test_lists_are_laid_flat_and_numbers_keep_their_kind() -> None:
    said = words(covers=["a", "b"], n=2, none=[], by=-40.0)
    assert said.filled(["remove:{covers}", "op:x", "fit:{none}"]) == [
        "remove:a",
        "remove:b",
        "op:x",
    ]
    assert said.filled({"{n}": "{n}", "gone": "{none}"}) == {"2": 2}
    assert said.filled("-{n}") == -2
    assert said.filled("{by}") == -40.0


def test_names_within_a_sentence() -> None:
    assert with_article("Front cover") == "the front cover"
    assert with_article("Cam cover A (1-3-5)") == "cam cover A (1-3-5)"
    assert with_article("Intake cam, bank A (1-3-5)") == "the intake cam, bank A (1-3-5)"
    assert joined(["a"]) == "a"
    assert joined(["a", "b", "c"]) == "a, b and c"
    assert [number_words(n) for n in (0, 8, 12, 13, "x")] == ["no", "eight", "twelve", "13", "x"]


def test_an_operation_knows_the_part_it_is_of() -> None:
    raw, lacking = expand(mini(operations={"pin": {"template": "retract", "of": "tensioner_part"}}))
    assert lacking == []
    pin = raw["operations"]["pin"]
    assert pin["name"] == "Pin tensioner A"
    assert pin["needed_for"] == ["tensioner_part"]
    assert pin["after"] == ["remove:lid"]
    assert pin["before"] == ["remove:tensioner_part"]
    assert pin["effects"] == {
        "slackens": ["chain"],
        "puts_in": {"tensioner_part": 1},
        "under": ["lid"],
    }
    assert pin["observes"][0] | {"code": "pins", "expected": 1, "pins": 1} == pin["observes"][0]


def test_a_way_of_doing_it_replaces_what_differs() -> None:
    uses = {"template": "retract", "of": "tensioner_part", "how": "lock"}
    raw, _ = expand(mini(operations={"pin": uses}))
    pin = raw["operations"]["pin"]
    assert pin["name"] == "Press tensioner A back"
    assert pin["effects"]["puts_in"] == {}
    assert pin["minutes"] == 5
    assert pin["observes"][0]["codes"] == ["holds", "slips"]


def test_a_release_says_between_what_a_plunger_stands() -> None:
    raw, _ = expand(mini(operations={"pull": {"template": "release", "of": "tensioner_part"}}))
    pull = raw["operations"]["pull"]
    assert pull["text"] == "Marks met, tensioner torqued? Pull the pin."
    plunger = next(o for o in pull["observes"] if o["code"] == "plunger")
    assert (plunger["low"], plunger["high"]) == (2.0, 10.0)
    assert "torque:tensioner_part" in pull["after"]
    assert pull["before"] == ["fit:lid"]


def test_references_to_a_template_are_to_all_that_is_written_on_it() -> None:
    holds = {"template": "hold_cams", "tool": "bar", "cams": ["cam"], "under": ["lid"]}
    raw, _ = expand(
        mini(
            operations={
                "pin_one": {"template": "retract", "of": "tensioner_part"},
                "pin_two": {"template": "retract", "of": "tensioner_part", "before": ["op:own"]},
                "hold": holds,
                "own": {"name": "Own", "phase": "fit"},
            }
        )
    )
    assert raw["operations"]["hold"]["before"] == ["op:pin_one", "op:pin_two"]
    assert raw["operations"]["pin_two"]["before"] == ["remove:tensioner_part", "op:own"]
    assert raw["operations"]["own"] == {"name": "Own", "phase": "fit"}, "written in full"


def test_time_goes_with_what_is_counted_and_waiting_is_apart() -> None:
    said = words(n=7, minutes_of=40, hours=12)
    plugs = filled_task(said, TEMPLATES.operations["plugs_out"], "plugs_out")
    assert plugs["minutes"] == 21
    cure = filled_task(said, TEMPLATES.operations["cure"], "cure")
    assert (cure["minutes"], cure["waiting_minutes"]) == (1, 40)
    cold = filled_task(said, TEMPLATES.operations["cold_retest"], "cold_retest")
    assert cold["waiting_minutes"] == 12 * 60


def test_what_a_book_says_over_a_template_stands() -> None:
    over = {"text": "Slowly.", "effects": {"under": []}, "minutes": 9}
    uses = {"template": "retract", "of": "tensioner_part", **over}
    raw, _ = expand(mini(operations={"pin": uses}))
    pin = raw["operations"]["pin"]
    assert (pin["text"], pin["minutes"]) == ("Slowly.", 9)
    assert pin["effects"] == {"slackens": ["chain"], "puts_in": {"tensioner_part": 1}, "under": []}
    half = {**MINI["components"]["tensioner_part"], "remove": {"text": "Out with it."}}
    raw, _ = expand(mini(components={**MINI["components"], "tensioner_part": half}))
    part = raw["components"]["tensioner_part"]
    assert part["name"] == "Tensioner A", "called as its part"
    assert part["remove"]["text"] == "Out with it."
    assert part["remove"]["looks_right"].startswith("It stays pinned")


@pytest.mark.parametrize(
    ("stage", "kind", "value", "tolerance"),
    [
        ("60 Nm", "torque", 60, 5),
        ("9 Nm", "torque", 9, 1),
        ("24 ± 2 Nm", "torque", 24, 2),
        ("24±1.5Nm", "torque", 24, 1.5),
        ("90°", "angle", 90, 5),
        ("90 ± 3°", "angle", 90, 3),
        ("back 180°", "back_off", 180, 5),
    ],
)
def test_a_stage_written_short(stage: str, kind: str, value: float, tolerance: float) -> None:
    raw, lacking = expand(mini(fasteners={"bolt": {"count": 1, "stages": [stage]}}))
    assert lacking == []
    assert raw["fasteners"]["bolt"]["stages"] == [
        {"kind": kind, "value": value, "tolerance": tolerance}
    ]


def test_odd_books_are_filled_without_breaking() -> None:
    for odd in (
        {},
        {"components": [1], "operations": "none"},
        {"components": {"a": None, "b": {"kind": 7}}, "operations": {"c": 3}},
        {"components": {"a": {"kind": "chain", "part": 5}}, "chains": {"x": "y"}},
        {"components": {"a": {"kind": "cover", "covered_by": "a", "fasteners": [1, "b"]}}},
        {"operations": {"a": {"template": "retract", "of": ["x"]}}, "arms": {"q": None}},
        {"fasteners": {"a": {"stages": [None, 3, "x"]}, "b": []}},
    ):
        filled, lacking = expand(odd)
        assert isinstance(filled, dict)
        assert all(fault.path for fault in lacking)


NAMED: list[tuple[tuple[str | int, ...], object, str]] = [
    (("operations", "hold_intake", "cams"), ["cam_q"], "holds: no cam is called cam_q"),
    (("operations", "hold_intake", "tool"), "bar", "by: no tool is called bar"),
    (("operations", "hold_intake", "under"), ["lid"], "under: no component is called lid"),
    (("operations", "service_position", "marks"), ["dot_q"], "reads: no mark is called dot_q"),
    (("operations", "turn_closed", "turned_by"), "wheel", "turned_by: no component is called whee"),
    (("operations", "read_before", "phasers"), ["p"], "phasers_locked: no phaser is called p"),
]


@pytest.mark.parametrize(("path", "value", "found"), NAMED, ids=[n[2][:30] for n in NAMED])
def test_a_task_that_names_what_the_book_has_not_proves_nothing(
    path: tuple[str | int, ...], value: object, found: str
) -> None:
    said = faults("ostrey-tansy", put(value, *path))
    assert any(line.startswith(f"operations.{path[1]}.effects.{found}") for line in said), said


def test_a_mark_hidden_by_nothing_known_is_refused() -> None:
    said = faults("ostrey-tansy", put(["lid"], "marks", "line_pulley", "carried_by"))
    assert "marks.line_pulley.carried_by: no component is called lid" in said
    said = faults("ostrey-tansy", put(["lid"], "marks", "dot_crank", "behind"))
    assert "marks.dot_crank.behind: no component is called lid" in said


def test_the_books_say_nothing_twice_that_a_template_says() -> None:
    """Texts stand in the templates: a book gives names, figures and what only it can know."""
    texts = [t for _, template in EVERY for t in template.text if len(t) > 40]
    for name in BOOKS:
        written = (ROOT / "engines" / f"{name}.yaml").read_text(encoding="utf-8")
        raw = read_yaml(written)
        for operation in raw["operations"].values():
            assert "template" in operation
        for text in texts:
            plain = re.sub(HOLE, "", text)
            assert plain not in written
