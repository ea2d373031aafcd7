"""The product's mark: one painted link with its two pins."""

from flaneur.core.picture.theme import Palette

_PLATE = "M0 -8.5Q10 -2 20 -8.5A8.5 8.5 0 0 1 20 8.5Q10 2 0 8.5A8.5 8.5 0 0 1 0 -8.5Z"


def mark_svg(look: Palette, height: str) -> str:
    """The mark as a picture of its own, ``height`` with its unit."""
    pin = f'r="3" fill="{look.sheet}" stroke="{look.on_pen}" stroke-width="1.6"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="-10.5 -9.5 41 19" height="{height}" '
        f'aria-hidden="true"><path d="{_PLATE}" fill="{look.pen}" stroke="{look.on_pen}" '
        f'stroke-width="1.8"/><circle {pin}/><circle cx="20" {pin}/></svg>'
    )
