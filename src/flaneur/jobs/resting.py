"""Where an engine stands, from how the last capture of its job ended."""

from flaneur.core.errors import PlanError
from flaneur.core.signals.kept import KeptCorrelation
from flaneur.jobs.work import Work
from flaneur.store.readings import captures_listed

ADVICE = (
    "Read the pulley against its scale, or choose unknown: the position is found from anywhere."
)


def stands_at(work: Work) -> str:
    """Where the crank stands, as the finder reads it. PlanError where no capture can tell."""
    captures = [c for c in captures_listed(work.session, work.job_id) if c.struck is None]
    last = captures[-1] if captures else None
    rest = KeptCorrelation.model_validate(last.correlation).rest if last else None
    if last is None or rest is None:
        raise PlanError(
            "No capture tells where the engine stands.",
            read="no capture" if last is None else f"capture {last.id}, which does not show it",
            expected="a last capture that goes on until the engine stands, of a crank sensor that "
            "sees slow teeth too",
            advice=ADVICE,
        )
    return f"{rest.crank_deg:.0f}deg ± {rest.within_deg:.0f}"
