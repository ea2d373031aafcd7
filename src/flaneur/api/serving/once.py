"""Runs a command once at a time, whoever starts it: a second one waits until the first has ended.

A supervisor that was killed leaves what it kept running behind. The next supervisor starts all of
it again, and each waits here: pages go on, and whatever of the old ends later is replaced at once.
"""

import argparse
import fcntl
import os
from pathlib import Path

MOST_LOGGED = 20_000_000  # bytes; a longer log is put aside when its command starts


def main() -> None:
    """Wait for the lock of a name, and become the command.

    A record lock: it outlives the change into the command, ends with that very process, and is not
    handed on to the processes the command starts.
    """
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("data", type=Path, help="the folder of the lock and of the command's log")
    parser.add_argument("name")
    parser.add_argument("command", nargs=argparse.REMAINDER)
    arguments = parser.parse_args()
    lock = os.open(arguments.data / f"{arguments.name}.lock", os.O_RDWR | os.O_CREAT, 0o600)
    fcntl.lockf(lock, fcntl.LOCK_EX)
    os.set_inheritable(lock, True)
    # A log of its own, not the supervisor's pipe: writing goes on without a supervisor.
    log: Path = arguments.data / f"{arguments.name}.log"
    if log.exists() and log.stat().st_size > MOST_LOGGED:
        log.replace(log.with_suffix(".log.1"))
    out = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND, 0o600)
    os.dup2(out, 1)
    os.dup2(out, 2)
    os.execvp(arguments.command[0], arguments.command)


if __name__ == "__main__":
    main()
