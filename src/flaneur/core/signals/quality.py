"""How far a capture can be trusted, in words: each says what is wrong and what it means."""

from collections.abc import Sequence

import numpy as np

from flaneur.core.book.schema import EngineBook
from flaneur.core.signals.baseline import clipped_share
from flaneur.core.signals.camwheel import CamTable
from flaneur.core.signals.capture import Capture, Samples
from flaneur.core.signals.crank import CrankAngle
from flaneur.core.signals.edges import Edges
from flaneur.core.signals.laying import Troubles
from flaneur.core.signals.notes import Note, NoteCode
from flaneur.core.signals.tooth_errors import ToothErrors
from flaneur.core.signals.trend import Moved
from flaneur.core.wording import counted, late_words

BENT_DEG, MOST_BENT = 0.5, 6  # crank degrees a tooth is off that is bent, and how many at most
SLOW_SAMPLES = 8.0  # samples from one crank event to the next under which times become coarse


def sensor_name(book: EngineBook, channel: str) -> str:
    """What a person calls the sensor on a channel: by the shaft it looks at."""
    wheel = book.cam_wheels.get(channel)
    return "Crank sensor" if wheel is None else book.shafts[wheel.shaft].name


def channel_words(name: str, samples: Samples, edges: Edges, kind: str) -> list[str]:
    """Noise, false crossings, drift and clipping of one channel, called ``name``."""
    words: list[str] = []
    if edges.noise_v > 0 and edges.swing_v / edges.noise_v < 12:
        words.append(
            Note(
                NoteCode.NOISY,
                f"{name}: noisy, swing only {edges.swing_v / edges.noise_v:.0f} times the noise.",
            )
        )
    if edges.chatter:
        words.append(
            Note(
                NoteCode.CHATTER,
                f"{name}: {counted(edges.chatter, 'false crossing')} by noise merged.",
            )
        )
    if edges.spikes:
        words.append(
            Note(
                NoteCode.SPIKES,
                f"{name}: {counted(edges.spikes, 'spike')} of interference passed over; look at "
                "the screen, and at what else runs beside the lead.",
            )
        )
    if edges.hum_v:
        words.append(
            Note(
                NoteCode.HUM,
                f"{name}: mains hum of {edges.hum_v:.1f} V, taken out; look at the earth.",
            )
        )
    if edges.drift_v > 0.25 * edges.swing_v:
        words.append(
            Note(
                NoteCode.DRIFT,
                f"{name}: drifts by {edges.drift_v:.2f} V; followed, but look at the sensor's "
                "earth.",
            )
        )
    if edges.height_change > 0.12:
        words.append(
            Note(
                NoteCode.HEIGHT,
                f"{name}: its height changes by {100 * edges.height_change:.0f} % during the "
                "capture; look for a loose plug or a wrong range.",
            )
        )
    share = clipped_share(samples, kind)
    if share > 0.01:
        words.append(
            Note(
                NoteCode.CLIPPED,
                f"{name}: clipped, {100 * share:.0f} % of it stands at the recorder's rail; "
                "choose a wider range.",
            )
        )
    return words


def crank_words(crank: CrankAngle, capture: Capture) -> list[str]:
    """Dropped teeth, turns lost, too slow a sample rate."""
    words: list[str] = []
    if crank.troubles is not None:
        words += _trouble_words(crank.troubles, crank.turns)
    shortest = float(np.percentile(np.diff(crank.times_s), 2)) * capture.rate_hz
    if shortest < SLOW_SAMPLES:
        words.append(
            Note(
                NoteCode.SLOW_RATE,
                f"The sample rate is too slow for this speed: {shortest:.1f} samples from tooth to "
                f"tooth, at least {SLOW_SAMPLES:.0f} wanted.",
            )
        )
    return words


def tooth_words(found: ToothErrors) -> str:
    """That a crank wheel's own errors are taken out."""
    worst = float(np.max(np.abs(found.error_deg)))
    return Note(
        NoteCode.TEETH_OFF,
        f"The crank wheel's own tooth errors (up to {worst:.2f}°) are taken out.",
    )


def bent_words(found: ToothErrors) -> list[str]:
    """Which teeth of a crank wheel stand so far off that they are bent, and by how much."""
    bent = np.flatnonzero(np.abs(found.error_deg) > BENT_DEG)
    if not 0 < len(bent) <= MOST_BENT:
        return []
    said = ", ".join(f"{k + 1} by {found.error_deg[k]:+.1f}°" for k in bent.tolist())
    return [
        Note(
            NoteCode.TEETH_BENT,
            f"Crank wheel: bent teeth, counted from the gap: {said}. They are taken out; look at "
            "the wheel.",
        )
    ]


def _trouble_words(found: Troubles, turns: int) -> list[str]:
    """What was found of lost teeth and of events that are none."""
    words: list[str] = []
    if found.missing:
        places = ", ".join(str(tooth + 1) for tooth in found.missing)
        words.append(
            Note(
                NoteCode.TOOTH_MISSING,
                f"Crank wheel: tooth {places} after the gap never shows; look for a broken tooth.",
            )
        )
    if found.lost or found.added:
        counts = [(found.lost, "lost"), (found.added, "too many")]
        said = " and ".join(f"{number} {what}" for number, what in counts if number)
        words.append(
            Note(
                NoteCode.TEETH_LOST,
                f"Crank teeth: {said}, in {found.turns} of {max(turns, found.turns)} turns; "
                "allowed for. Look at the sensor's gap and lead.",
            )
        )
    return words


def cam_words(
    name: str,
    table: CamTable,
    scatter_deg: float,
    moved: Moved | None,
    off_deg: list[float],
    crank: CrankAngle,
    book: EngineBook,
    left_out: Sequence[tuple[float, float]],
) -> list[str]:
    """Unsteady readings, edges that stand apart, edges that belong to nothing, cycles that are not
    whole.
    """
    words: list[str] = []
    if moved is not None:
        words.append(
            Note(
                NoteCode.MOVES,
                f"{name}: moves during the capture, from {late_words(moved.from_deg)} to "
                f"{late_words(moved.to_deg)} between {moved.from_s:.1f} and {moved.to_s:.1f} s. "
                "The figure is where it stands afterwards.",
            )
        )
    if scatter_deg > 3 * book.limits.cycle_scatter_deg:
        words.append(
            Note(
                NoteCode.SCATTER,
                f"{name}: cycle scatter {scatter_deg:.2f}° is large; the reading is unsteady.",
            )
        )
    edges = len(table.edges_used)
    if off_deg and len(off_deg) <= max(1, edges // 2):
        places = ", ".join(f"{d:.0f}°" for d in off_deg)
        words.append(
            Note(
                NoteCode.EDGE_OFF,
                f"{name}: the edge at {places} stands apart from the others; look for a damaged or "
                "bent tone wheel. It is left out.",
            )
        )
    elif off_deg:
        words.append(
            Note(
                NoteCode.EDGES_DISAGREE,
                f"{name}: its edges disagree with each other; this may not be its wheel.",
            )
        )
    seen = int(np.isfinite(table.deviation_deg).sum())
    if table.unmatched > 0.02 * max(1, seen):
        words.append(
            Note(
                NoteCode.EDGES_STRANGE,
                f"{name}: {counted(table.unmatched, 'edge')} at no place of the wheel's; look for "
                "interference or a loose sensor.",
            )
        )
    span = int(table.cycle[-1] - table.cycle[0] + 1)
    if not left_out and len(table.cycle) < 0.95 * span - 1:
        words.append(
            Note(
                NoteCode.CYCLES_NOT_WHOLE,
                f"{name}: {span - len(table.cycle)} of {span} cycles are not whole and do not "
                "count.",
            )
        )
    expected = crank.turns / 2
    if not left_out and span < 0.85 * expected - 2:
        words.append(
            Note(NoteCode.CYCLES_FEW, f"{name}: readable for only {span} of {expected:.0f} cycles.")
        )
    return words


def quality_verdict(words: Sequence[str]) -> str:
    """One phrase for the whole capture."""
    if not words:
        return "Clean: nothing speaks against this capture."
    return (
        "Readable, with one thing to know."
        if len(words) == 1
        else f"Readable, with {len(words)} things to know."
    )
