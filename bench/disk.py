"""What a shop's records survive: a backup brought in elsewhere, and a disk that fills up."""

import json
import os
import shutil
import subprocess
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from sqlalchemy import create_engine, text
from sqlmodel import select
from tests.support.cluster import ROOT, Cluster, contents, free_port

from bench.figure import Figure, at_least, at_most
from bench.house import Served, served
from bench.tablets import Line
from flaneur.core.record.chain import chain_faults
from flaneur.store.changes import chain_of
from flaneur.store.database import one_look
from flaneur.store.tables import Job

BACK_WITHIN_S = 10.0
DISK_BYTES, LEFT_BYTES = 2_500_000_000, 200_000_000  # the small disk; what is left of it first
FULL_S = 20.0  # how long there is nothing left at all
# Signs of life, which go on while a copy is made.
ALIVE = frozenset({"pulse", "procrastinate_workers"})
QUIET_WITHIN_S = 180.0
# Courses worked out between copying and comparing would be told apart from the copy.
WORKING = text("""
    SELECT count(*) FROM procrastinate_jobs
    WHERE status NOT IN ('succeeded', 'failed', 'cancelled', 'aborted')
      AND (status <> 'doing' OR worker_id IN (SELECT id FROM procrastinate_workers))
""")


def restored(product: Served) -> Iterator[Figure]:
    """A backup of the running product, brought into an empty place and compared table by table."""
    folder = Path(tempfile.mkdtemp(dir=ROOT / ".run", prefix="bench-restored-"))
    folder.chmod(0o755)  # PostgreSQL's own user must get through
    file, copy = folder / "depot.backup", Cluster(folder / "data" / "db", free_port())
    running = int((product.data / "db" / "data" / "postmaster.pid").read_text().splitlines()[3])
    theirs = Cluster(product.data / "db", running).url("setup")
    try:
        _until_quiet(theirs)
        _script("backup", file, product.data, running)
        before = contents(theirs)
        _script("restore", file, folder / "data", copy.port)
        copy.run("start")
        after = contents(copy.url("setup"))
        unlike = [t for t in before.keys() | after.keys() if before.get(t) != after.get(t)]
        for table in unlike:
            print(f"  unlike: {table}", flush=True)
        yield at_least("load", "tables of a backup brought in elsewhere", len(after), 15)
        yield at_most("load", "of those unlike the running ones", len({*unlike} - ALIVE), 0)
        yield at_most("load", "broken chains of jobs there", _broken(copy.url("app")), 0)
    finally:
        with suppress(subprocess.CalledProcessError):
            copy.run("stop", "quick")
        shutil.rmtree(folder, ignore_errors=True)


def _until_quiet(url: str) -> None:
    """Wait until no worker has anything to do; where one goes on for ever, no longer than so."""
    engine, end = create_engine(url), time.monotonic() + QUIET_WITHIN_S
    with engine.connect() as connection:
        while connection.execute(WORKING).scalar_one() and time.monotonic() < end:
            connection.rollback()
            time.sleep(0.5)
    engine.dispose()


def _script(name: str, file: Path, data: Path, port: int) -> None:
    environment = {**os.environ, "FLANEUR_DATA": str(data), "FLANEUR_DB_PORT": str(port)}
    subprocess.run([ROOT / "script" / name, file], env=environment, check=True, timeout=300)


def _broken(url: str) -> int:
    with one_look(url) as session:
        jobs = session.exec(select(Job)).all()
        return sum(bool(chain_faults(j.number, chain_of(session, j.id or 0))) for j in jobs)


@contextmanager
def small_disk() -> Iterator[Path]:
    """A disk of its own, small enough to fill; only whoever may mount has one."""
    folder = Path(tempfile.mkdtemp(dir=ROOT / ".run", prefix="bench-small-"))
    options = f"size={DISK_BYTES},mode=755"
    subprocess.run(["mount", "-t", "tmpfs", "-o", options, "tmpfs", folder], check=True)
    try:
        yield folder
    finally:
        subprocess.run(["umount", "--lazy", folder], check=True)
        folder.rmdir()


def filled(factor: float) -> Iterator[Figure]:
    """The product on a disk that fills into the reserve, then up, and is freed."""
    with small_disk() as disk, served(disk) as product:
        line = Line(product.address, "ivo")
        job = _job(line)
        ballast = disk / "ballast"
        _fill(ballast, shutil.disk_usage(disk).free - LEFT_BYTES)
        status, said = _change(line, job, "in the reserve")
        refused = status == 507 and b"disk" in said and line.ask("GET", "/api/yard")[0] == 200
        yield at_least("load", "in the disk's reserve: a change refused in words", refused, 1)
        _fill(ballast, shutil.disk_usage(disk).free)
        taken, unread, end = 0, 0, time.monotonic() + FULL_S
        while time.monotonic() < end:
            taken += _change(line, job, "on a full disk")[0] == 200
            unread += line.ask("GET", "/api/yard")[0] != 200
            time.sleep(0.5)
        yield at_most("load", "on a full disk: changes taken", taken, 0)
        yield at_most("load", "on a full disk: pages not answered", unread, 0)
        ballast.unlink()
        begun = time.monotonic()
        while _change(line, job, "freed")[0] != 200 and time.monotonic() < begun + 120:
            time.sleep(0.1)
        took = time.monotonic() - begun
        name = "disk freed: until a change is taken, s"
        yield at_most("load", name, took, BACK_WITHIN_S * factor)
        yield at_most("load", "broken chains after it", _broken(product.database_url), 0)
        line.close()


def _job(line: Line) -> int:
    unit = line.send("GET", "/api/yard")["units"][0]["id"]
    return int(line.send("POST", "/api/jobs", {"unit_id": unit})["id"])


def _change(line: Line, job: int, words: str) -> tuple[int, bytes]:
    status, said = line.ask("GET", f"/api/jobs/{job}")
    if status != 200:
        return status, said
    body = {"complaint": words, "version": json.loads(said)["version"]}
    return line.ask("PUT", f"/api/jobs/{job}/intake", body)


def _fill(file: Path, size: int) -> None:
    """Make a file longer by so much, or by whatever there is room for."""
    with file.open("ab") as out, suppress(OSError):
        for _ in range(0, size, 1_000_000):
            out.write(bytes(1_000_000))
            out.flush()
