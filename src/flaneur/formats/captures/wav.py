"""WAV captures (docs/formats/capture-wav.md): 16, 24, 32 bit or float, any number of channels, by
libsndfile.
"""

from pathlib import Path

import numpy as np
import soundfile

from flaneur.core.errors import CaptureError
from flaneur.core.signals.capture import Capture

MOST_CHANNELS = 16
BLOCK_FRAMES = 1 << 20
MOST_SAMPLES = 500_000_000  # of all channels together


def read_wav(path: Path, source: str | None = None) -> Capture:
    """Read a WAV file; channels are called ``channel_1`` and so on, or as the file's title names
    them (a comma list).

    Integer samples become shares of full scale, float samples stay as they are (volts, where we
    wrote them). Raises CaptureError for a damaged or empty file.
    """
    name = source or path.name
    try:
        with soundfile.SoundFile(str(path)) as file:
            count, frames, rate = file.channels, file.frames, float(file.samplerate)
            if not 1 <= count <= MOST_CHANNELS:
                raise CaptureError(
                    "The capture has too many channels.",
                    read=str(count),
                    expected=f"1 to {MOST_CHANNELS}",
                )
            if not 16 <= frames <= MOST_SAMPLES // count:
                raise CaptureError(
                    "The capture has no samples." if frames < 16 else "The capture is too long.",
                    read=f"{name}, {frames:,} frames",
                    expected=f"16 to {MOST_SAMPLES // count:,} frames of {count} channels",
                )
            channels = np.empty((count, frames), dtype=np.float32)
            done = 0
            while done < frames:
                block = file.read(min(BLOCK_FRAMES, frames - done), dtype="float32", always_2d=True)
                if len(block) == 0:
                    raise CaptureError(
                        "The file breaks off.",
                        read=f"{done:,} of {frames:,} frames",
                        expected="a whole file",
                        advice="Copy it again.",
                    )
                channels[:, done : done + len(block)] = block.T
                done += len(block)
            names = _names(file.title, count)
    except (soundfile.SoundFileError, OSError) as error:
        raise CaptureError(
            "The WAV file is damaged.",
            read=f"{name}: {error}"[:160],
            expected="a whole WAV file",
            advice="Copy it again.",
        ) from error
    return Capture(rate, dict(zip(names, channels, strict=True)), source=name)


def _names(title: str, count: int) -> list[str]:
    written = [n.strip() for n in title.split(",")] if title else []
    return (
        written
        if len(set(written)) == count and all(written)
        else [f"channel_{i + 1}" for i in range(count)]
    )


def write_wav(capture: Capture, path: Path) -> None:
    """Write volts as 32-bit float, channel names in the title; the sample rate is rounded to whole
    hertz.
    """
    rate = round(capture.rate_hz)
    with soundfile.SoundFile(
        str(path), "w", rate, len(capture.channels), subtype="FLOAT", format="WAV"
    ) as file:
        file.title = ",".join(capture.channels)
        columns = list(capture.channels.values())
        for start in range(0, capture.samples, BLOCK_FRAMES):
            file.write(np.column_stack([x[start : start + BLOCK_FRAMES] for x in columns]))
