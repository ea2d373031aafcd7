"""What can be wrong with a chain drive: the hidden state of an engine."""

import math

from pydantic import BaseModel, ConfigDict, Field, field_validator

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import BookError, Fault
from flaneur.core.keys import Contact


class Faults(BaseModel):
    """Hidden state of a drive. Missing entries mean as new.

    Offsets are crank degrees by which events come later; jumped teeth count later as positive and
    belong to one contact, written ``chain/sprocket``.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    elongation_pct: dict[str, float] = Field(default_factory=dict)
    liner_wear_mm: dict[str, float] = Field(
        default_factory=dict, description="Per fixed guide or arm."
    )
    jumped_teeth: dict[str, int] = Field(default_factory=dict)
    phaser_offset_deg: dict[str, float] = Field(default_factory=dict)
    tone_wheel_offset_deg: dict[str, float] = Field(default_factory=dict)
    phaser_rate: dict[str, float] = Field(
        default_factory=dict, description="Share of the sound rate it still runs at."
    )
    phaser_hunting_deg: dict[str, float] = Field(
        default_factory=dict, description="Swing about a held command, half peak to peak."
    )
    phaser_drift_deg_s: dict[str, float] = Field(
        default_factory=dict, description="Creep away from a held command."
    )
    phaser_park_deg: dict[str, float] = Field(
        default_factory=dict, description="Angle from park at which it rests uncommanded."
    )
    cold_rattle_deg: float = Field(
        default=0.0, ge=0, allow_inf_nan=False, description="How much later cams start when cold."
    )
    oil_pressure_share: float = Field(default=1.0, gt=0, le=1.5)
    base_relearned: bool = False

    @field_validator(
        "elongation_pct",
        "liner_wear_mm",
        "phaser_offset_deg",
        "tone_wheel_offset_deg",
        "phaser_rate",
        "phaser_hunting_deg",
        "phaser_drift_deg_s",
        "phaser_park_deg",
    )
    @classmethod
    def _finite(cls, value: dict[str, float]) -> dict[str, float]:
        for key, number in value.items():
            if not math.isfinite(number):
                raise ValueError(f"{key}: {number} is not a finite number")
        return value

    def check_against(self, book: EngineBook) -> None:
        """Raise BookError naming every key the book does not know."""
        contacts = {
            f"{c}/{s}"
            for c, chain in book.chains.items()
            for s in chain.loop
            if s in book.sprockets
        }
        known: dict[str, set[str]] = {
            "elongation_pct": set(book.chains),
            "liner_wear_mm": set(book.guides) | set(book.arms),
            "jumped_teeth": contacts,
            "phaser_offset_deg": set(book.phasers),
            "phaser_rate": set(book.phasers),
            "phaser_hunting_deg": set(book.phasers),
            "phaser_drift_deg_s": set(book.phasers),
            "phaser_park_deg": set(book.phasers),
            "tone_wheel_offset_deg": set(book.tone_wheels),
        }
        wrong = [
            Fault(
                f"{field}.{key}",
                f"{book.name} has no such part (it has {', '.join(sorted(names))})",
            )
            for field, names in known.items()
            for key in getattr(self, field)
            if key not in names
        ]
        if wrong:
            raise BookError("These faults do not belong to this engine.", wrong, read=wrong[0].line)


def after_repair(
    hidden: Faults,
    book: EngineBook,
    renewed: list[str],
    came_off: list[str],
    errors: dict[str, int],
) -> Faults:
    """Hidden state after the parts behind ``renewed`` components were replaced; ``came_off`` went
    back on again.

    Only what was renewed becomes new. A chain that came off is set again by its marks, so its old
    jumps go and the tooth errors made while fitting (``errors``, later positive) take their place.
    Tone wheels keep their own offsets.
    """
    parts = {part for c in renewed if (part := book.components[c].part)}
    reset = {
        part for c in (*renewed, *came_off) if (part := book.components[c].part) in book.chains
    }
    jumps = {k: v for k, v in hidden.jumped_teeth.items() if Contact.of(k).chain not in reset}
    jumps |= {
        contact: teeth for contact, teeth in errors.items() if Contact.of(contact).chain in reset
    }

    def kept(values: dict[str, float]) -> dict[str, float]:
        return {k: v for k, v in values.items() if k not in parts}

    tensioned = any(part in book.tensioners for part in parts)
    return hidden.model_copy(
        update={
            "elongation_pct": kept(hidden.elongation_pct),
            "liner_wear_mm": kept(hidden.liner_wear_mm),
            "jumped_teeth": {k: v for k, v in jumps.items() if v},
            "phaser_offset_deg": kept(hidden.phaser_offset_deg),
            "phaser_rate": kept(hidden.phaser_rate),
            "phaser_hunting_deg": kept(hidden.phaser_hunting_deg),
            "phaser_drift_deg_s": kept(hidden.phaser_drift_deg_s),
            "phaser_park_deg": kept(hidden.phaser_park_deg),
            "cold_rattle_deg": 0.0 if tensioned else hidden.cold_rattle_deg,
        }
    )
