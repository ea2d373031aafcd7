"""Setting a wrench of the shop with an adapter on it: on its own graduation, within its range."""

from collections.abc import Sequence
from datetime import date

from pydantic import BaseModel, ConfigDict

from flaneur.core.errors import ReadingError
from flaneur.core.fasteners.adapter import Lever, Setting, adapter_setting
from flaneur.core.stores.lists import Wrench
from flaneur.core.stores.wrenches import not_today


class WrenchSet(BaseModel):
    """What to set; ``against`` says why what this wrench shows would not be a reading, empty where
    nothing speaks against it; ``doubt`` what nobody knows of it.
    """

    model_config = ConfigDict(frozen=True)

    setting: Setting
    against: str
    doubt: str


def set_wrench(
    wrenches: Sequence[Wrench], name: str, target_nm: float, lever: Lever, today: date
) -> WrenchSet:
    """A wrench by its name in the shop's list, or any (empty name). Raises ReadingError for one
    that is not there, and for a lever that cannot be.
    """
    wrench = next((w for w in wrenches if w.name == name), None)
    if name and wrench is None:
        raise ReadingError(
            "The shop has no such torque wrench.",
            read=name,
            expected=", ".join(w.name for w in wrenches) or "a list of torque wrenches",
            field="wrench",
        )
    step = wrench.graduation_nm if wrench else None
    setting = adapter_setting(target_nm, lever, step)
    if wrench is None:
        doubt = "Which wrench is not said: its range, graduation and calibration are not known."
        return WrenchSet(setting=setting, against="", doubt=doubt)
    doubt = "" if wrench.calibrated_until else f"Calibration of {wrench.name} is not known."
    return WrenchSet(setting=setting, against=_against(wrench, setting, today), doubt=doubt)


def _against(wrench: Wrench, setting: Setting, today: date) -> str:
    why = not_today(wrench, today)
    if not wrench.least_nm <= setting.set_nm <= wrench.most_nm:
        why = f"goes from {wrench.least_nm:g} to {wrench.most_nm:g} Nm"
    return f"{wrench.name} {why}: record it as not measured." if why else ""
