"""The order of work, derived from the book's rules as a graph of steps."""

from collections.abc import Iterable
from typing import Any, cast

import networkx as nx

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import PlanError
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.access import closed_set, renewed_set
from flaneur.core.plan.tour import lies_over, toured_of

PHASES = ("prepare", "remove", "fit", "close")
ALL_OFF, ALL_ON = "all off", "all on"  # nodes that no step is: what comes before and after
MILESTONES = (ALL_OFF, ALL_ON)


def _ref(verb: Verb, key: str) -> str:
    return str(StepRef(verb, key))


def steps_of(book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()) -> dict[str, str]:
    """The steps of a scope with their phases, in no order of work."""
    wanted = list(scope)
    removed = closed_set(book, wanted)
    inside, found = set(removed), dict[str, str]()
    for key in removed:
        found[_ref(Verb.REMOVE, key)] = "remove"
        found[_ref(Verb.FIT, key)] = "fit"
        if book.components[key].fasteners:
            found[_ref(Verb.TORQUE, key)] = "fit"
    renewed = set(renewed_set(book, wanted, kept))
    for key, operation in book.operations.items():
        needed = renewed if operation.only_new else inside
        is_needed = not operation.needed_for or needed & set(operation.needed_for)
        if removed and is_needed and (not operation.and_for or inside & set(operation.and_for)):
            found[_ref(Verb.OPERATION, key)] = operation.phase
    return found


def step_graph(
    book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()
) -> "nx.DiGraph[str]":
    """Steps as nodes ``op:x``, ``remove:x``, ``fit:x``, ``torque:x`` with a ``phase``; edges run
    from earlier to later.

    Rules drawn as edges: covers off before what they cover; fitted and torqued before being
    covered; inner before outer (``fit_after``); everything off before anything goes on; an
    operation's own before and after. What is ``kept`` comes off and goes on again as it is.
    """
    scope = list(scope)
    removed = closed_set(book, scope)
    inside = set(removed)
    graph: nx.DiGraph[str] = nx.DiGraph()
    for node, phase in steps_of(book, scope, kept).items():
        graph.add_node(node, phase=phase)
    for key in removed:
        if book.components[key].fasteners:
            graph.add_edge(_ref(Verb.FIT, key), _ref(Verb.TORQUE, key))
    for key in removed:
        component = book.components[key]
        last = _ref(Verb.TORQUE, key) if component.fasteners else _ref(Verb.FIT, key)
        for cover in component.covered_by:
            graph.add_edge(_ref(Verb.REMOVE, cover), _ref(Verb.REMOVE, key))
            on = last if lies_over(book, key, cover) else _ref(Verb.FIT, key)
            graph.add_edge(on, _ref(Verb.FIT, cover))
        for inner in component.fit_after:
            if inner in inside:
                graph.add_edge(_on(book, inner), _ref(Verb.FIT, key))
        for outer in component.remove_after:
            if outer in inside:
                graph.add_edge(_ref(Verb.REMOVE, outer), _ref(Verb.REMOVE, key))
    for key, operation in book.operations.items():
        node = _ref(Verb.OPERATION, key)
        if node in graph:
            graph.add_edges_from((node, later) for later in operation.before if later in graph)
            graph.add_edges_from((earlier, node) for earlier in operation.after if earlier in graph)
    for key in removed:
        if toured_of(book, key):
            _toured(book, graph, _ref(Verb.TORQUE, key))
    _milestones(graph)
    return graph


def _toured(book: EngineBook, graph: "nx.DiGraph[str]", torque: str) -> None:
    """Bolts reached by turning are torqued with every chain taut, before it is turned to prove."""
    for name, operation in book.operations.items():
        node = _ref(Verb.OPERATION, name)
        if node in graph and operation.effects.tightens:
            graph.add_edge(node, torque)
        elif node in graph and operation.effects.full_turns:
            graph.add_edge(torque, node)


def _on(book: EngineBook, key: str) -> str:
    """The step after which an inner part is on for what goes on over it: torqued, unless it is only
    tightened once the chain is taut.
    """
    component = book.components[key]
    late = component.fit.effects.frees_taper or toured_of(book, key)
    bolted = component.fasteners and not late
    return _ref(Verb.TORQUE if bolted else Verb.FIT, key)


def _milestones(graph: "nx.DiGraph[str]") -> None:
    """Nothing is fitted before everything is off; closing steps follow the last fitting step."""
    by_phase = {p: [n for n, d in graph.nodes(data=True) if d["phase"] == p] for p in PHASES}
    off = [*by_phase["prepare"], *by_phase["remove"]]
    graph.add_node(ALL_OFF, phase="remove")
    graph.add_node(ALL_ON, phase="fit")
    graph.add_edges_from((n, ALL_OFF) for n in off)
    graph.add_edges_from((ALL_OFF, n) for n in by_phase["fit"])
    graph.add_edges_from((n, ALL_ON) for n in [*by_phase["fit"], ALL_OFF])
    graph.add_edges_from((ALL_ON, n) for n in by_phase["close"])


def work_order(book: EngineBook, scope: Iterable[str], kept: Iterable[str] = ()) -> list[str]:
    """Steps in a lawful order; ties follow phase and book order. Raises PlanError naming a circle
    of rules.
    """
    return in_usual_order(book, step_graph(book, scope, kept))


def in_usual_order(book: EngineBook, graph: "nx.DiGraph[str]") -> list[str]:
    """The steps of a graph in a lawful order; ties follow phase and book order. Raises PlanError as
    ``work_order`` does.
    """
    rank = {key: i for i, key in enumerate([*book.components, *book.operations])}

    def key(node: str) -> tuple[int, int, str]:
        verb, name = StepRef.of(node) if node not in MILESTONES else (None, node)
        place = rank.get(name, len(rank))
        phase = PHASES.index(graph.nodes[node]["phase"])
        # Coming off follows the book; going on runs the other way, outer parts last.
        return phase, -place if verb in (Verb.FIT, Verb.TORQUE) else place, node

    try:
        order = list(nx.lexicographical_topological_sort(graph, key=key))
    except nx.NetworkXUnfeasible as error:
        around: list[tuple[str, str]] = list(cast(Any, nx).find_cycle(graph))
        circle = " → ".join(a for a, _ in around)
        raise PlanError(
            "The book's rules go round in a circle; no order satisfies them.",
            read=circle,
            expected="rules that can be followed one after another",
            advice="Mend the engine book.",
        ) from error
    return [n for n in order if n not in MILESTONES]


def dependents(
    book: EngineBook, scope: Iterable[str], step: str, kept: Iterable[str] = ()
) -> set[str]:
    """Steps that rest on ``step``: its descendants in the graph."""
    graph = step_graph(book, scope, kept)
    if step not in graph:
        return set()
    after: set[str] = nx.descendants(graph, step)  # pyright: ignore[reportUnknownMemberType]
    return {n for n in after if n not in MILESTONES}
