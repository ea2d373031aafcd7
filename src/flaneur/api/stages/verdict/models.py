"""What crosses the network here: one model a message."""

from flaneur.api.models import Out
from flaneur.core.diagnosis.verdict import Verdict
from flaneur.core.plan.propose import Proposal


class VerdictOut(Out):
    """The verdict, and what it proposes to renew by either school."""

    verdict: Verdict
    measured: list[Proposal]
    whole_set: list[Proposal]
