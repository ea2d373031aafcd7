"""Colours, type and targets of everything that is drawn: the one place for screen, pictures and
paper.

``script/openapi`` writes them to ``web/src/theme/tokens.json`` for the front end. Enamel is
structure, blue was measured, pen-yellow is what is marked on the engine and "look here", red lead
is out of its limit or stop.
"""

from dataclasses import asdict, dataclass, fields
from typing import Any


@dataclass(frozen=True, kw_only=True)
class Palette:
    """One theme's colours, as CSS and SVG take them."""

    ground: str
    sheet: str
    ink: str
    soft: str
    line: str
    edge: str  # borders of fields and choices: 3:1 at least
    enamel: str
    on_enamel: str
    enamel_tint: str
    enamel_edge: str  # outline of an enamelled plate
    blue: str
    blue_tint: str
    pen: str
    on_pen: str
    red: str
    red_tint: str
    ochre: str
    ochre_tint: str
    steel: str  # plates, rails, bodies
    steel_light: str  # inner plates, liners
    steel_pale: str  # webs of wheels
    copper: str  # copper-coloured marked links


DAYLIGHT = Palette(
    ground="#EDF0EE",
    sheet="#FBFCFB",
    ink="#14201D",
    soft="#404B47",
    line="#B9C4BF",
    edge="#6A7772",
    enamel="#295146",
    on_enamel="#FFFFFF",
    enamel_tint="#DCE7E2",
    enamel_edge="#1C3B33",
    blue="#1C4997",
    blue_tint="#DEE7F5",
    pen="#F2C230",
    on_pen="#14201D",
    red="#B3261E",
    red_tint="#F7E1DF",
    ochre="#704800",
    ochre_tint="#F5EAD3",
    steel="#46524E",
    steel_light="#8F9A95",
    steel_pale="#D5DDD9",
    copper="#B4672B",
)
LAMP = Palette(
    ground="#191512",
    sheet="#231E19",
    ink="#F4EADB",
    soft="#CDBFAA",
    line="#4D443A",
    edge="#93866F",
    enamel="#93C4AE",
    on_enamel="#0F1B16",
    enamel_tint="#2B352D",
    enamel_edge="#2A4036",
    blue="#ABC3F5",
    blue_tint="#2A3146",
    pen="#F2C230",
    on_pen="#14201D",
    red="#FFA294",
    red_tint="#4A211A",
    ochre="#F0C26B",
    ochre_tint="#3F301A",
    steel="#A79B88",
    steel_light="#6E6455",
    steel_pale="#37302A",
    copper="#D88A4E",
)
PAPER = Palette(**{**asdict(DAYLIGHT), "ground": "#FFFFFF", "sheet": "#FFFFFF"})
"""Daylight on white."""

SCREEN = Palette(**{f.name: f"var(--{f.name.replace('_', '-')})" for f in fields(Palette)})
"""The colours as the screen's theme has them at the moment."""

TYPE_PX = {"least": 13.5, "note": 15, "body": 17, "name": 19, "head": 31, "bench": 24, "figure": 46}
TARGET_PX = {"bench": 56, "next": 60, "target": 48}
FAMILY = "Atkinson Hyperlegible Next"


def tokens() -> dict[str, Any]:
    """What the front end is given: ``daylight`` and ``lamp`` as CSS names, sizes in px."""
    themes = {"daylight": DAYLIGHT, "lamp": LAMP}
    return {
        **{
            name: {key.replace("_", "-"): value for key, value in asdict(palette).items()}
            for name, palette in themes.items()
        },
        "type": TYPE_PX,
        "target": TARGET_PX,
    }
