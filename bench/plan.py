"""Plans: closed sets, roads and orders against brute force; rules that are changed change the plan;
how fast roads and plans are there; what each plan saves against the book's own order.
"""

import random
import sys
import time
from collections.abc import Iterator
from itertools import combinations, permutations

import networkx as nx
import numpy as np

from bench.books import scopes
from bench.figure import Figure, at_least, at_most, factor_of, for_information
from bench.variants import every_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.book.tasks import Component, Operation
from flaneur.core.book.ways import check_ways
from flaneur.core.errors import PlanError
from flaneur.core.keys import StepRef, Verb
from flaneur.core.plan.access import closed_set
from flaneur.core.plan.making import step_of
from flaneur.core.plan.order import step_graph, steps_of
from flaneur.core.plan.ordering import ordered
from flaneur.core.plan.places import place_of
from flaneur.core.plan.plan import make_plan, planned
from flaneur.core.plan.roads import Road, is_worse, roads
from flaneur.core.plan.roads import combinations as found_combinations
from flaneur.core.plan.shorter import MOST_STATES, Needs, changes_of, shortest
from flaneur.core.plan.walk import walker

EACH, ORDERS, MUTATIONS = 40, 200, 500
ROADS_MS, FIRST_MS, BEST_MS = 500.0, 150.0, 2000.0


def run(is_tiny: bool = False) -> Iterator[Figure]:
    books = list(every_book())[: 2 if is_tiny else None]
    yield from _closed(books, 3 if is_tiny else EACH)
    yield from _roads(books, 3 if is_tiny else EACH)
    yield from _orders(books, 4 if is_tiny else ORDERS)
    yield from _mutations(books, 10 if is_tiny else MUTATIONS)
    yield from _times(books)
    yield from _savings(books)


def closed_masks(book: EngineBook) -> tuple[list[str], np.ndarray]:
    """Every set of components closed under the book's rules, by trying all subsets of them."""
    keys = list(book.components)
    index = {k: i for i, k in enumerate(keys)}
    masks = np.arange(1 << len(keys), dtype=np.uint32)
    ok = np.ones(masks.size, bool)
    for key, component in book.components.items():
        has = (masks >> index[key]) & 1 == 1
        for needed in (*component.covered_by, *component.renew_with, *component.comes_with):
            ok &= ~has | ((masks >> index[needed]) & 1 == 1)
        if component.one_use:
            for cover in component.covered_by:
                ok &= ((masks >> index[cover]) & 1 == 0) | has
    return keys, masks[ok]


def smallest_closed(keys: list[str], masks: np.ndarray, scope: list[str]) -> list[set[str]]:
    """The smallest closed sets that hold a scope."""
    wanted = np.uint32(sum(1 << keys.index(k) for k in set(scope)))
    holding = masks[(masks & wanted) == wanted]
    sizes = np.array([int(m).bit_count() for m in holding])
    best = holding[sizes == sizes.min()]
    return [{k for i, k in enumerate(keys) if int(m) >> i & 1} for m in best]


def _drawn(book: EngineBook, rng: random.Random) -> list[str]:
    parts = [k for k, c in book.components.items() if c.renewable]
    return rng.sample(parts, rng.randint(1, min(4, len(parts))))


def _closed(books: list[EngineBook], each: int) -> Iterator[Figure]:
    rng, tried, wrong = random.Random(18), 0, 0
    for book in books:
        keys, masks = closed_masks(book)
        for _ in range(each):
            scope = _drawn(book, rng)
            tried += 1
            wrong += smallest_closed(keys, masks, scope) != [set(closed_set(book, scope))]
    yield for_information("plan", "random scopes closed by brute force", tried)
    yield at_most("plan", "closed sets unlike brute force", wrong, 0)


def _roads(books: list[EngineBook], each: int) -> Iterator[Figure]:
    rng, tried, wrong = random.Random(19), 0, 0
    for book in books:
        served = [[part] for way in book.ways.values() for part in way.serves]
        for scope in [*served, *(_drawn(book, rng) for _ in range(each))]:
            tried += 1
            lawful = [c for c in _every(book) if _is_lawful(book, c, set(scope))]
            same = sorted(found_combinations(book, scope)) == sorted(lawful)
            found = roads(book, scope)
            shown = {(tuple(r.ways), r.kit): r for r in found.roads if not r.adds}
            wrong += not same or any(_beaten(r, found.roads) for r in found.roads)
            known = {*shown, *((tuple(n.ways), n.kit) for n in found.not_offered)}
            wrong += not {ways for ways, _ in known} >= set(lawful)
            for (ways, kit), price in _prices(book, scope, lawful).items():
                road = shown.get((ways, kit))
                wrong += (ways, kit) not in known or bool(road and abs(road.price - price) > 0.01)
    yield for_information("plan", "scopes whose roads were tried one by one", tried)
    yield at_most("plan", "road comparisons unlike brute force", wrong, 0)


def _prices(
    book: EngineBook, scope: list[str], lawful: list[tuple[str, ...]]
) -> dict[tuple[tuple[str, ...], str], float]:
    """What every lawful choice of ways costs with every kit that holds any of it, counted part by
    part.
    """
    found: dict[tuple[tuple[str, ...], str], float] = {}
    for ways in lawful:
        try:
            parts = make_plan(book, scope, ways=ways, is_quick=True).parts
        except PlanError:
            continue
        singly = [(part.key, part.price) for part in parts for _ in range(part.count)]
        found[ways, ""] = sum(price for _, price in singly)
        for key, kit in book.kits.items():
            box = [held for held, count in kit.holds.items() for _ in range(count)]
            beside = 0.0
            for part, price in singly:
                if part in box:
                    box.remove(part)
                else:
                    beside += price
            if len(box) < sum(kit.holds.values()):
                found[ways, key] = kit.price + beside
    return found


def _every(book: EngineBook) -> list[tuple[str, ...]]:
    keys = sorted(book.ways)
    return [c for n in range(len(keys) + 1) for c in combinations(keys, n)]


def _is_lawful(book: EngineBook, ways: tuple[str, ...], scope: set[str]) -> bool:
    try:
        check_ways(book, ways, scope)
    except PlanError:
        return False
    return True


def _beaten(road: Road, others: list[Road]) -> bool:
    return any(o is not road and is_worse(road, o) for o in others)


def needs_of(book: EngineBook, ref: str) -> Needs:
    step = step_of(book, ref)
    return Needs(frozenset(step.tools), place_of(book, ref), step.two_person)


def brute_cost(graph: "nx.DiGraph[str]", refs: list[str], needs: dict[str, Needs]) -> int:
    """The least cost over every lawful order, one by one."""
    before = {r: nx.ancestors(graph, r) & set(refs) for r in refs}
    best = 1 << 30
    for order in permutations(refs):
        seen = set[str]()
        for ref in order:
            if not before[ref] <= seen:
                break
            seen.add(ref)
        else:
            best = min(best, changes_of(needs[r] for r in order).cost)
    return best


def small_part(book: EngineBook, rng: random.Random, most: int = 7) -> list[str]:
    """Some steps of a plan of this book, in their usual order."""
    order = ordered(book, _drawn(book, rng), is_quick=True).refs
    picked = set(rng.sample(order, min(most, len(order))))
    return [ref for ref in order if ref in picked]


def _orders(books: list[EngineBook], many: int) -> Iterator[Figure]:
    rng, wrong, open_ended = random.Random(20), 0, 0
    for i in range(many):
        book = books[i % len(books)]
        scope = _drawn(book, rng)
        graph = step_graph(book, scope)
        order = ordered(book, scope, is_quick=True).refs
        picked = set(rng.sample(order, min(7, len(order))))
        refs = [r for r in order if r in picked]
        needs = {r: needs_of(book, r) for r in refs}
        best, is_exact = shortest(graph, refs, needs, MOST_STATES)
        open_ended += not is_exact
        assert best is not None
        wrong += changes_of(needs[r] for r in best).cost != brute_cost(graph, refs, needs)
    yield for_information("plan", "orders compared with every other one", many)
    yield at_most("plan", "orders longer than brute force", wrong, 0)
    yield at_most("plan", "of them not searched to the end", open_ended, 0)


def _mutations(books: list[EngineBook], many: int) -> Iterator[Figure]:
    """One rule that bears on the scope changed: another plan, or none."""
    rng, unseen, refused = random.Random(21), 0, 0
    for i in range(many):
        book = books[i % len(books)]
        scope = _drawn(book, rng)
        changed, what = _changed(book, scope, rng)
        try:
            if _plan_of(changed, scope) == _plan_of(book, scope):
                unseen += 1
                print(f"unseen {book.name} {scope}: {what}", file=sys.stderr)
        except PlanError:
            refused += 1
    yield for_information("plan", "of the changed rules refused", refused)
    yield at_most("plan", f"of {many} changed rules unseen", unseen, 0)


def _plan_of(book: EngineBook, scope: list[str]) -> object:
    """What a plan rests on: what comes off, and which step must come before which."""
    graph = step_graph(book, scope)
    ordered(book, scope, is_quick=True)
    return closed_set(book, scope), set(nx.transitive_closure(graph).edges)


def _changed(book: EngineBook, scope: list[str], rng: random.Random) -> tuple[EngineBook, str]:
    """The book with one rule changed that a plan of this scope rests on."""
    access = closed_set(book, scope)
    outside = [k for k in book.components if k not in access]
    used = [k for r in steps_of(book, scope) if (k := StepRef.of(r)).verb is Verb.OPERATION]
    kind = rng.choice(["cover", "needed", "lost", "turned"])
    if kind == "cover" and outside:
        key, over = rng.choice(access), rng.choice(outside)
        part = book.components[key]
        return _with_part(book, key, covered_by=[*part.covered_by, over]), f"{over} over {key}"
    if kind == "needed":
        key = rng.choice(used).key
        other = [outside[0]] if outside else []
        if other:
            return _with_work(book, key, needed_for=other, and_for=[]), f"{key} for {other}"
    if kind == "turned":
        both = [(k.key, r) for k in used for r in book.operations[k.key].after]
        inside = [(k, r) for k, r in both if r in steps_of(book, scope)]
        if inside:
            key, ref = rng.choice(inside)
            operation = book.operations[key]
            after = [r for r in operation.after if r != ref]
            return (
                _with_work(book, key, after=after, before=[*operation.before, ref]),
                f"{key} before {ref}",
            )
    key = rng.choice(used).key
    operations = {k: o for k, o in book.operations.items() if k != key}
    return book.model_copy(update={"operations": operations}), f"without {key}"


def _with_part(book: EngineBook, key: str, **fields: object) -> EngineBook:
    part: Component = book.components[key].model_copy(update=fields)
    return book.model_copy(update={"components": {**book.components, key: part}})


def _with_work(book: EngineBook, key: str, **fields: object) -> EngineBook:
    work: Operation = book.operations[key].model_copy(update=fields)
    return book.model_copy(update={"operations": {**book.operations, key: work}})


def _times(books: list[EngineBook]) -> Iterator[Figure]:
    compared = first = best = 0.0
    for book in books:
        whole = list(scopes(book)[-1])
        walker(book).walk(ordered(book, whole, is_quick=True).refs)
        for way in book.ways.values():
            roads(book, [way.serves[0]])  # walks are kept from here on

            def compare(book: EngineBook = book, part: str = way.serves[0]) -> object:
                planned.cache_clear()
                return roads(book, [part])

            taken, factor = factor_of(compare, 3)
            compared = max(compared, taken / factor)

        def plan(is_quick: bool, book: EngineBook = book, whole: list[str] = whole) -> object:
            planned.cache_clear()
            return make_plan(book, whole, is_quick=is_quick)

        taken, factor = factor_of(lambda plan=plan: plan(True), 3)
        first = max(first, taken / factor)
        begun = time.perf_counter()
        plan(False)
        best = max(best, 1000 * (time.perf_counter() - begun) / factor)
    yield at_most("plan", "roads compared, slowest, reference ms", compared, ROADS_MS)
    yield at_most("plan", "first lawful plan, slowest, reference ms", first, FIRST_MS)
    yield at_most("plan", "shortest plan, slowest, reference ms", best, BEST_MS)


def _savings(books: list[EngineBook]) -> Iterator[Figure]:
    """What the whole set saves on each book: changes of tool and place, calls for a helper."""
    print(
        "  whole set: changes of tools, of place, calls for a helper; in the book's order",
        file=sys.stderr,
    )
    longer = 0
    for book in books:
        plan = make_plan(book, scopes(book)[-1])
        now, was = plan.changes, plan.usual_changes
        print(
            f"  {book.name:20} {now.tools:3} {now.places:3} {now.helper:3}   "
            f"{was.tools:3} {was.places:3} {was.helper:3}   {len(plan.steps)} steps"
            + ("" if plan.is_shortest else ", not searched to the end"),
            file=sys.stderr,
        )
        longer += now.cost > was.cost
    yield at_most("plan", "whole sets longer than in the book's order", longer, 0)
    yield at_least("plan", "books", len(books), 2)
