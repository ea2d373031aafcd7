"""Room on the disk the data lies on: a database that runs out of it stops."""

import shutil
from pathlib import Path

RESERVE_BYTES = 300_000_000  # where no setting says otherwise


def missing_bytes(folder: str | Path, reserve: int, wanted: int = 0) -> int:
    """How much room is missing for ``wanted`` bytes beside the reserve; nought when there is
    enough, or when no folder is named.
    """
    if not folder:
        return 0
    return max(0, reserve + wanted - shutil.disk_usage(folder).free)
