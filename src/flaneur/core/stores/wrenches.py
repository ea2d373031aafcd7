"""Torque wrenches against the torques of a plan: who reaches, who may swing, who is calibrated."""

from collections.abc import Sequence
from datetime import date

from pydantic import BaseModel, ConfigDict

from flaneur.core.plan.ready import TorqueLine
from flaneur.core.stores.lists import Whereabouts, Wrench


class WrenchAt(BaseModel):
    """Fasteners with the wrenches that do for them (None: nobody keeps a list); ``words`` say what
    is wrong where none does, and the way out.
    """

    model_config = ConfigDict(frozen=True)

    fastener: str
    least_nm: float
    most_nm: float
    does: list[str] | None
    words: str


def wrenches_at(
    torques: Sequence[TorqueLine], wrenches: Sequence[Wrench], today: date
) -> list[WrenchAt]:
    """For each torque of a plan, which wrenches of the shop do for it on a day."""
    return [_one(line, wrenches, today) for line in torques]


def _one(line: TorqueLine, wrenches: Sequence[Wrench], today: date) -> WrenchAt:
    def said(does: list[str] | None, words: str) -> WrenchAt:
        return WrenchAt(
            fastener=line.fastener,
            least_nm=line.least_nm,
            most_nm=line.most_nm,
            does=does,
            words=words,
        )

    if not wrenches:
        return said(None, "Nobody keeps a list of torque wrenches.")
    chosen: list[str] = []
    for torque in sorted({line.least_nm, line.most_nm}):
        reach = [w for w in wrenches if w.least_nm <= torque <= w.most_nm]
        good = [w for w in reach if not _why_not(w, line, today)]
        if not reach:
            ends = ", ".join(f"{w.name} {w.least_nm:g} to {w.most_nm:g}" for w in wrenches[:4])
            return said(
                [],
                f"No wrench of the shop reaches {torque:g} Nm ({ends}): hire one, or set another "
                "with an adapter's lever reckoned in.",
            )
        if not good:
            why = "; ".join(f"{w.name} {_why_not(w, line, today)}" for w in reach)
            return said([], f"For {torque:g} Nm: {why}. What it shows would not be a reading.")
        chosen.append(min(good, key=lambda w: w.graduation_nm).name)
    doubt = _doubt([w for w in wrenches if w.name in chosen], line)
    return said(list(dict.fromkeys(chosen)), doubt)


def _why_not(wrench: Wrench, line: TorqueLine, today: date) -> str:
    """Why a wrench does not do, in words that follow its name; empty where it does."""
    why = not_today(wrench, today)
    if not why and line.room_deg and wrench.swing_deg and wrench.swing_deg > line.room_deg:
        return f"needs {wrench.swing_deg:g}° to swing, and there are {line.room_deg:g}°"
    return why


def not_today(wrench: Wrench, today: date) -> str:
    """Why what a wrench shows is no reading on a day, in words that follow its name; empty where it
    is one.
    """
    if wrench.whereabouts not in (Whereabouts.OWNED, Whereabouts.HIRED):
        return f"is {wrench.whereabouts.words}"
    if wrench.calibrated_until and wrench.calibrated_until < today:
        return f"is out of calibration since {wrench.calibrated_until}"
    return ""


def _doubt(chosen: Sequence[Wrench], line: TorqueLine) -> str:
    """What is not known of wrenches that do."""
    open_ended = [w.name for w in chosen if w.calibrated_until is None]
    doubts = [f"calibration of {', '.join(open_ended)} not known"] if open_ended else []
    if line.room_deg is None:
        doubts.append("room to swing not in the book")
    elif any(w.swing_deg is None for w in chosen):
        doubts.append("its least swing not known")
    return f"{'; '.join(doubts)}.".capitalize() if doubts else ""
