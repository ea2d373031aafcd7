"""The plan as it is worked at the bench: with the programs of what is really fitted."""

from collections import Counter

from flaneur.core.bench.within import chosen
from flaneur.core.book.ways import on_ways
from flaneur.core.plan.plan import Plan
from flaneur.core.plan.torquing import step_as_fitted
from flaneur.jobs.standing import bench_of
from flaneur.jobs.work import Work
from flaneur.store.bench import events_of
from flaneur.store.plans import plan_of


def bench_plan(work: Work) -> Plan | None:
    """A job's plan; steps in which something else is fitted ask for its program, open ones as they
    are now, closed ones as they were when they were answered.
    """
    plan = plan_of(work.job)
    if plan is None:
        return None
    bench = bench_of(work.session, work.job)
    times = Counter(r.step for r in bench.records)
    events = events_of(work.session, work.job_id)
    steps = list(plan.steps)
    for i, step in enumerate(steps):
        if not step.fitted:
            continue
        turn = times[step.ref] - (step.ref in bench.done)
        here = [e for e in events if e.step == step.ref and e.answered == turn]
        if picked := chosen(here):
            there = on_ways(work.book, tuple(plan.ways))
            steps[i] = step_as_fitted(there, step, picked)
    return plan.model_copy(update={"steps": steps})
