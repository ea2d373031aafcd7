"""One theme for screen, pictures and paper: its contrasts, and the files made from it."""

import json
from dataclasses import asdict

import pytest
from tests.support.cluster import ROOT

from flaneur.core.picture.drive import drive_picture
from flaneur.core.picture.shapes import shortened
from flaneur.core.picture.theme import DAYLIGHT, LAMP, PAPER, Palette, tokens
from flaneur.formats.books import load_book

GROUNDS = ("ground", "sheet", "enamel_tint", "blue_tint", "red_tint", "ochre_tint")
THEMES = {"daylight": DAYLIGHT, "lamp": LAMP, "paper": PAPER}


def luminance(colour: str) -> float:
    """Relative luminance by WCAG 2."""
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    r, g, b = (p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(palette: Palette, on: str, ground: str) -> float:
    low, high = sorted(luminance(getattr(palette, name)) for name in (on, ground))
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("theme", THEMES)
def test_words_stand_out_on_every_ground_and_more_so_on_the_bench(theme: str) -> None:
    palette = THEMES[theme]
    for ground in GROUNDS:
        for words in ("ink", "soft", "enamel", "blue", "red", "ochre"):
            assert contrast(palette, words, ground) >= 4.5, f"{words} on {ground}"
        assert contrast(palette, "ink", ground) >= 7
        assert contrast(palette, "edge", ground) >= 3, f"a field's border on {ground}"
    for ground in ("ground", "sheet"):
        assert contrast(palette, "soft", ground) >= 7
    assert contrast(palette, "on_enamel", "enamel") >= 7
    assert contrast(palette, "on_pen", "pen") >= 7


def test_the_front_end_has_the_theme_and_the_face_as_they_are() -> None:
    made = ROOT / "web" / "src" / "theme"
    assert json.loads((made / "tokens.json").read_text("utf-8")) == tokens(), "run script/openapi"
    face = drive_picture(load_book(ROOT / "engines" / "ostrey-tansy.yaml"))
    assert json.loads((made / "face.json").read_text("utf-8")) == json.loads(shortened(face))
    assert set(tokens()["lamp"]) == {key.replace("_", "-") for key in asdict(LAMP)}
