"""Writes the small sample files beside this one: a third of a second of the made-up V6, in every
format that is read.

python -m tests.data.make, from the project's root.
"""

import gzip
from pathlib import Path

import numpy as np
import soundfile

from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.formats.books import load_book
from flaneur.formats.captures import to_parquet, write_csv, write_wav
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise

HERE = Path(__file__).parent


def sample() -> Capture:
    book = load_book(HERE.parents[1] / "engines" / "ostrey-tansy.yaml")
    conditions = Conditions(seconds=0.4, rate_hz=8_000, noise_v=0.02)
    return synthesise(
        book, Faults(jumped_teeth={"chain_b/cam_b_in": 1}), conditions, np.random.default_rng(1)
    )


def main() -> None:
    from asammdf import MDF, Signal

    capture = sample()
    rate = round(capture.rate_hz)
    write_csv(capture, HERE / "capture.csv")
    write_csv(capture, HERE / "comma.csv", ";", ",")
    (HERE / "capture.csv.gz").write_bytes(
        gzip.compress((HERE / "capture.csv").read_bytes(), mtime=0)
    )
    rows = [
        f"{i / rate * 1e3:.3f}\t"
        + "\t".join(f"{x[i] * 1e3:.0f}" for x in capture.channels.values())
        for i in range(capture.samples)
    ]
    head = (
        "# bench recorder\ntime\t"
        + "\t".join(capture.channels)
        + "\nms"
        + "\tmV" * len(capture.channels)
    )
    (HERE / "units.tsv").write_text("\n".join([head, *rows]) + "\n", encoding="utf-8")
    write_wav(capture, HERE / "float.wav")
    table = np.column_stack(list(capture.channels.values())) / 5.0
    for name, subtype in (
        ("pcm16.wav", "PCM_16"),
        ("pcm24.wav", "PCM_24"),
        ("pcm32.wav", "PCM_32"),
    ):
        soundfile.write(str(HERE / name), table, rate, subtype=subtype)
    (HERE / "capture.parquet").write_bytes(to_parquet(capture))
    times = np.arange(capture.samples) / capture.rate_hz
    with MDF(version="4.10") as file:
        file.append(
            [
                Signal(samples=x, timestamps=times, name=n, unit="V")
                for n, x in capture.channels.items()
            ]
        )
        file.save(HERE / "capture.mf4", overwrite=True, compression=2)


if __name__ == "__main__":
    main()
