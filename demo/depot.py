"""Saltmere Island Fleet Depot: made-up people, units, hidden faults and jobs. Nothing here is
real.
"""

from dataclasses import dataclass, field

from flaneur.core.faults.model import Faults

PASSWORD = "saltmere"
PEOPLE = [
    ("ivo", "Ivo Tarnholt", "technician"),
    ("sunna", "Sunna Quill", "lead"),
    ("pell", "Pell Ardmoor", "technician"),
]


@dataclass(frozen=True)
class DemoUnit:
    tag: str
    name: str
    kind: str
    place: str
    hours: float | None
    faults: Faults = field(default_factory=Faults)
    engine: str = "Ostrey Tansy"


@dataclass(frozen=True)
class DemoJob:
    """``until`` names the stage the job has reached."""

    tag: str
    until: str
    complaint: str
    when: str
    where: str
    standing: str
    oil: str
    plungers: bool = True
    rattle: str = "unknown"
    codes: str = ""
    scope: tuple[str, ...] = ()
    steps: int = 0


# Ordinary scatter of tone wheels, so that a sound engine does not read zero.
def _tone(a_in: float, a_ex: float, b_in: float, b_ex: float) -> dict[str, float]:
    return {"wheel_a_in": a_in, "wheel_a_ex": a_ex, "wheel_b_in": b_in, "wheel_b_ex": b_ex}


UNITS = [
    DemoUnit(
        "AMB-1",
        "Ambulance Kittiwake",
        "ambulance",
        "Bay 2",
        5200,
        Faults(
            elongation_pct={"primary": 0.18, "chain_a": 0.82, "chain_b": 0.15},
            liner_wear_mm={"guide_a": 0.7, "arm_a": 0.9, "guide_b": 0.3},
            phaser_rate={"phaser_b": 0.45},
            cold_rattle_deg=3.5,
            tone_wheel_offset_deg=_tone(0.2, -0.3, 0.1, 0.3),
        ),
    ),
    DemoUnit(
        "PIL-2",
        "Pilot boat Razorbill",
        "pilot boat",
        "Slipway",
        6100,
        Faults(
            elongation_pct={"primary": 0.2, "chain_a": 0.22, "chain_b": 0.28},
            jumped_teeth={"chain_b/cam_b_in": 1},
            liner_wear_mm={"guide_b": 0.6, "arm_b": 0.5},
            tone_wheel_offset_deg=_tone(-0.2, 0.1, 0.3, -0.1),
        ),
    ),
    DemoUnit(
        "SNO-1",
        "Snow groomer Ptarmigan",
        "snow groomer",
        "Bay 4",
        3900,
        Faults(
            elongation_pct={"primary": 0.9, "chain_a": 0.12, "chain_b": 0.16},
            liner_wear_mm={"guide_p": 1.0},
            tone_wheel_offset_deg=_tone(0.1, 0.2, -0.2, 0.0),
        ),
    ),
    DemoUnit(
        "FIR-3",
        "Fire pump Gannet",
        "fire pump",
        "Bay 1",
        2700,
        Faults(
            elongation_pct={"primary": 0.1, "chain_a": 0.1, "chain_b": 0.12},
            phaser_offset_deg={"phaser_a": -14.0},
            tone_wheel_offset_deg=_tone(0.0, 0.2, 0.3, -0.3),
        ),
    ),
    DemoUnit(
        "GEN-1",
        "Harbour crane generator",
        "generator",
        "Crane house",
        7400,
        Faults(
            elongation_pct={"primary": 0.25, "chain_a": 0.3, "chain_b": 0.95},
            liner_wear_mm={"guide_b": 2.0, "arm_b": 1.6},
            tone_wheel_offset_deg=_tone(0.3, 0.0, -0.1, 0.2),
        ),
    ),
    DemoUnit(
        "AMB-4",
        "Ambulance Fulmar",
        "ambulance",
        "Yard",
        4800,
        Faults(
            elongation_pct={"primary": 0.15, "chain_a": 0.2, "chain_b": 0.75},
            tone_wheel_offset_deg=_tone(0.1, -0.1, 0.2, 0.1),
        ),
    ),
    DemoUnit(
        "PIL-5",
        "Pilot boat Guillemot",
        "pilot boat",
        "Slipway",
        3100,
        Faults(
            liner_wear_mm={"guide_a": 4.2, "arm_a": 0.4},
            elongation_pct={"chain_a": 0.14, "primary": 0.1, "chain_b": 0.1},
            tone_wheel_offset_deg=_tone(0.2, 0.1, -0.1, 0.1),
        ),
    ),
    DemoUnit(
        "SNO-2",
        "Snow groomer Dotterel",
        "snow groomer",
        "Yard",
        None,
        Faults(elongation_pct={"primary": 0.1}, tone_wheel_offset_deg=_tone(0.1, -0.2, 0.2, 0.1)),
    ),
    DemoUnit(
        "AMB-7",
        "Ambulance Tystie",
        "ambulance",
        "Bay 3",
        5900,
        Faults(
            elongation_pct={"timing": 0.55},
            liner_wear_mm={"guide": 1.2, "arm": 0.8},
            tone_wheel_offset_deg={"wheel_in": 0.5},
        ),
        engine="Quillon Sorrel",
    ),
    DemoUnit(
        "PIL-8",
        "Pilot boat Eider",
        "pilot boat",
        "Slipway",
        4300,
        Faults(
            elongation_pct={"primary": 0.2, "short_a": 0.6}, jumped_teeth={"short_a/short_a_ex": 1}
        ),
        engine="Ostrey Teasel",
    ),
    DemoUnit(
        "SNO-3",
        "Snow groomer Knot",
        "snow groomer",
        "Bay 4",
        3300,
        Faults(
            elongation_pct={"chain_a": 0.3, "chain_b": 0.65},
            liner_wear_mm={"guide_b": 2.2, "arm_b": 1.1},
        ),
        engine="Brindle Fennel",
    ),
    DemoUnit(
        "FIR-9",
        "Fire pump Dunlin",
        "fire pump",
        "Bay 1",
        640,
        Faults(elongation_pct={"chain_r": 0.4}),
        engine="Skarne Burdock",
    ),
    DemoUnit(
        "AMB-10",
        "First responder Turnstone",
        "ambulance",
        "Yard",
        2100,
        Faults(elongation_pct={"rear_chain": 0.3}),
        engine="Tarsel Comfrey",
    ),
    DemoUnit(
        "GEN-2",
        "Standby generator",
        "generator",
        "Lighthouse",
        9800,
        Faults(elongation_pct={"timing": 1.1}),
        engine="Dunmarrow Thistle",
    ),
    DemoUnit(
        "FIR-6",
        "Fire pump Skua",
        "fire pump",
        "Bay 5",
        900,
        Faults(tone_wheel_offset_deg=_tone(-0.1, 0.2, 0.0, 0.1)),
    ),
]

JOBS = [
    DemoJob(
        "AMB-1",
        "readings",
        "Rattle for three seconds on every cold start; lamp with a cam correlation code.",
        "cold start",
        "front top, bank A (1-3-5)",
        "14 h",
        "poor",
        rattle="cold_start",
        codes="P0016",
    ),
    DemoJob(
        "PIL-2",
        "verdict",
        "Rough idle since the tow home, no power above half throttle.",
        "always",
        "bank B (2-4-6)",
        "2 h",
        "good",
    ),
    DemoJob(
        "SNO-1",
        "plan",
        "Slap at hot idle, worse after the season.",
        "hot idle",
        "front bottom",
        "40 h",
        "unknown",
        rattle="hot_idle",
    ),
    DemoJob(
        "FIR-3",
        "bench",
        "Code for cam position performance, bank A; idles unevenly.",
        "hot idle",
        "bank A (1-3-5)",
        "20 h",
        "good",
        scope=("phaser_a_part",),
        steps=26,
    ),
    DemoJob(
        "GEN-1",
        "proof",
        "Loud rattle under load, metal in the pan.",
        "under load",
        "bank B (2-4-6)",
        "0 h",
        "poor",
        scope=("tensioner_b", "arm_b", "chain_b_part", "guide_b"),
        steps=999,
    ),
    DemoJob(
        "AMB-4",
        "handover",
        "Rattle on cold start after the weekend.",
        "cold start",
        "front top",
        "60 h",
        "good",
        scope=(
            "tensioner_p",
            "arm_p",
            "chain_p",
            "guide_p",
            "tensioner_b",
            "arm_b",
            "chain_b_part",
            "guide_b",
        ),
        steps=999,
    ),
]
