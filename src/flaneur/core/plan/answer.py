"""All that is asked of a plan at once: the plan itself, the roads beside it, and the way to its
position.
"""

from collections.abc import Collection, Iterable, Sequence

from flaneur.core.book.schema import EngineBook
from flaneur.core.plan.buying import bought_as
from flaneur.core.plan.finder import Finding, find_position
from flaneur.core.plan.plan import Plan, make_plan
from flaneur.core.plan.ready import Ready, make_ready
from flaneur.core.plan.roads import Road, Roads, road_of, roads, usual_plan


class PlanAnswer(Plan):
    """A plan with the roads there are to its scope, the one it goes, what must be ready, and where
    the engine stands.

    ``roads`` and what is not offered are of the whole comparison; ``road`` is this plan as a road.
    """

    roads: Roads
    road: Road
    ready: Ready
    position: Finding


def answer(
    book: EngineBook,
    scope: Sequence[str],
    kept: Collection[str] = (),
    ways: Iterable[str] = (),
    now: str = "unknown",
    lean_deg: float = 0.0,
    owned: Collection[str] | None = None,
    kit: str = "",
) -> PlanAnswer:
    """Plan a scope on the ways chosen, and compare every road to it. Raises PlanError."""
    singly = make_plan(book, scope, kept, ways)
    plan = bought_as(book, singly, kit)
    return PlanAnswer(
        **{name: getattr(plan, name) for name in Plan.model_fields},
        roads=roads(book, scope, kept, owned),
        road=road_of(book, plan, usual_plan(book, scope, kept), owned),
        ready=make_ready(book, singly, kit),
        position=find_position(book, now, lean_deg),
    )
