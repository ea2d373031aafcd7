"""Everything that script/server runs is killed at random moments while people write, a file is on
its way and somebody looks live: all of it comes back without a hand, and nothing that was
acknowledged is lost or there twice.
"""

import json
import os
import signal
import tempfile
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import suppress
from pathlib import Path

import numpy as np
from sqlalchemy import text

from bench.figure import Figure, at_least, at_most
from bench.house import Served
from bench.tablets import Line
from bench.variants import tansy
from flaneur.core.faults.model import Faults
from flaneur.formats.captures import write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.database import one_look

KILLS, WITHIN_S = 62, 10.0
KEPT = (
    "web-0.sock",
    "web-1.sock",
    "heavy.sock",
    "live.sock",
    "flaneur.worker",
    "simulation.box",
    "simulation.link",
    "simulation.wrench",
    "database hold",
)


class Parts:
    """The processes of a running product."""

    def __init__(self, product: Served) -> None:
        self.data = product.data

    def _number(self, file: str) -> int:
        try:
            return int((self.data / file).read_text().split()[0])
        except (OSError, ValueError, IndexError):
            return 0

    def pids(self) -> dict[str, int]:
        """The process of every part, at one look; nought where there is none."""
        rows = self._running()
        keeper, proxy = self._number("supervisor.pid"), self._number("front.pid")
        found = dict.fromkeys(KEPT, 0)
        for pid, (parent, words) in rows.items():
            of = next((part for part in KEPT if part in words), None)
            if of and of not in rows.get(parent, (0, ""))[1]:
                found[of] = pid

        def worker(of: int) -> int:
            with suppress(OSError, IndexError):
                return int(Path(f"/proc/{of}/task/{of}/children").read_text().split()[0])
            return 0

        found |= {f"{part}'s worker": worker(found[part]) for part in KEPT[:4]}
        found |= {"proxy": proxy, "proxy's worker": worker(proxy), "supervisor": keeper}
        found["postmaster"] = self._number("db/data/postmaster.pid")
        return {part: pid if Path(f"/proc/{pid}").exists() else 0 for part, pid in found.items()}

    def _running(self) -> dict[int, tuple[int, str]]:
        """Parent and words of every process kept for this product that does not wait its turn."""
        mark, rows = f"FLANEUR_KEPT={self.data}".encode(), dict[int, tuple[int, str]]()
        for folder in Path("/proc").glob("[0-9]*"):
            with suppress(OSError):
                if mark not in (folder / "environ").read_bytes().split(b"\0"):
                    continue
                words = (folder / "cmdline").read_bytes().replace(b"\0", b" ").decode()
                parent = int((folder / "stat").read_text().rsplit(")", 1)[1].split()[1])
                if "serving.once" not in words:
                    rows[int(folder.name)] = (parent, words)
        return rows

    def pid(self, part: str) -> int:
        """The process of one part. Raises ProcessLookupError where there is none: a signal to
        process 0 goes to whoever sends it.
        """
        if pid := self.pids()[part]:
            return pid
        raise ProcessLookupError(part)


class Writer:
    """Somebody who writes a mark into a job again and again, and knows which were acknowledged."""

    def __init__(self, line: Line, job: int) -> None:
        self.line, self.job, self.marks = line, job, list[str]()
        self.version = self._version()

    def _version(self) -> int:
        status, said = self.line.ask("GET", f"/api/jobs/{self.job}")
        return int(json.loads(said)["version"]) if status == 200 else 0

    def write(self) -> None:
        """Write one mark; where no answer comes, look again what the job's version is."""
        if not self.version:
            self.version = self._version()
            time.sleep(0.1)
            return
        mark = uuid.uuid4().hex[:12]
        body = {"complaint": mark, "version": self.version}
        status, said = self.line.ask("PUT", f"/api/jobs/{self.job}/intake", body)
        if status == 200:
            self.marks.append(mark)
            self.version = int(json.loads(said)["version"])
        else:
            self.version = 0

    def lost_and_doubled(self) -> tuple[int, int]:
        """Of the acknowledged marks: those the notebook has not, and those it has more than
        once.
        """
        notes = self.line.send("GET", f"/api/jobs/{self.job}")["notebook"]
        said = Counter(note["words"].split(": ")[-1].rstrip(".") for note in notes)
        lost = sum(said[mark] == 0 for mark in self.marks)
        return lost, sum(count > 1 for count in said.values())


def measure(product: Served, factor: float, is_tiny: bool) -> Iterator[Figure]:
    """Figures from a running product, which stands again at the end."""
    people = [Line(product.address, login) for login in ("ivo", "pell", "sunna", "ivo")]
    units = people[0].send("GET", "/api/yard")["units"]
    jobs = [
        int(line.send("POST", "/api/jobs", {"unit_id": units[0]["id"]})["id"]) for line in people
    ]
    writers = [Writer(line, job) for line, job in zip(people[:2], jobs[:2], strict=True)]
    sender, watcher = _Sender(people[2], jobs[2]), _Watcher(people[3], jobs[3])
    stop = threading.Event()
    works = [w.write for w in writers] + [sender.send, watcher.look]
    threads = [threading.Thread(target=_until, args=(stop, work), daemon=True) for work in works]
    for thread in threads:
        thread.start()
    try:
        took = _kill(product, people[0].address, 3 if is_tiny else KILLS)
    finally:
        stop.set()
    for thread in threads:
        thread.join(120)
    for part, seconds in sorted(took, key=lambda item: -item[1])[:4]:
        print(f"  {seconds:5.1f} s  {part}", flush=True)
    looked = [writer.lost_and_doubled() for writer in writers]
    for person in people:
        person.close()
    yield at_least("load", "parts killed", len(took), 3 if is_tiny else 60)
    yield at_most("load", "slowest to come back, s", max(s for _, s in took), WITHIN_S * factor)
    yield at_least("load", "writes acknowledged meanwhile", sum(len(w.marks) for w in writers), 1)
    yield at_most("load", "of those lost", sum(lost for lost, _ in looked), 0)
    yield at_most("load", "of those there twice", sum(twice for _, twice in looked), 0)
    yield at_least("load", "files acknowledged meanwhile", len(sender.sent), 1)
    yield at_most("load", "of those not kept exactly once", sender.astray(product), 0)
    yield at_least("load", "live looks begun and broken off meanwhile", watcher.begun, 1)


def _until(stop: threading.Event, work: Callable[[], None]) -> None:
    while not stop.is_set():
        with suppress(RuntimeError):
            work()


class _Sender:
    """Somebody who drops a small capture in every few seconds."""

    def __init__(self, line: Line, job: int) -> None:
        self.line, self.job, self.sent = line, job, list[int]()
        capture = synthesise(tansy(), Faults(), Conditions(seconds=1.2), np.random.default_rng(1))
        with tempfile.NamedTemporaryFile(suffix=".csv") as file:
            write_csv(capture, Path(file.name))
            self.content = Path(file.name).read_bytes()

    def send(self) -> None:
        """Drop one in."""
        edge = uuid.uuid4().hex
        body = (
            (
                f'--{edge}\r\nContent-Disposition: form-data; name="file"; filename="drop.csv"\r\n'
                "Content-Type: text/csv\r\n\r\n"
            ).encode()
            + self.content
            + f"\r\n--{edge}--\r\n".encode()
        )
        kind = f"multipart/form-data; boundary={edge}"
        status, said = self.line.post(f"/api/jobs/{self.job}/captures/file", body, kind)
        if status == 200:
            self.sent.append(int(json.loads(said)["id"]))
        time.sleep(2.0)

    def astray(self, product: Served) -> int:
        """Acknowledged files that did not become exactly one capture within a minute."""
        asked = text("SELECT incoming_id, count(*) FROM capture GROUP BY incoming_id")
        end = time.monotonic() + 60
        while True:
            with one_look(product.database_url) as session:
                kept = {int(key): int(n) for key, n in session.execute(asked) if key is not None}
            astray = sum(kept.get(number, 0) != 1 for number in self.sent)
            if not astray or time.monotonic() > end:
                return astray
            time.sleep(0.5)


class _Watcher:
    """Somebody who looks live, and connects again when the look was broken off."""

    def __init__(self, line: Line, job: int) -> None:
        self.line, self.path, self.begun = line, f"/api/jobs/{job}/live", 0

    def look(self) -> None:
        """Look once."""
        now = self.line.send("GET", self.path)
        if now["state"] not in ("live", "connecting"):
            self.line.send("POST", self.path, {})
            self.begun += 1
        time.sleep(0.5)


def _kill(product: Served, address: str, times: int) -> list[tuple[str, float]]:
    """Kill every part in turn, in random order, at random moments; how long each took to be all
    back.
    """
    parts, rng = Parts(product), np.random.default_rng(12)
    took = list[tuple[str, float]]()
    line = Line(address, "ivo")
    order = list[str]()
    while len(took) < times:
        order = order or list(rng.permutation(list(parts.pids())))
        part = order.pop()
        time.sleep(float(rng.uniform(0.2, 2.0)))
        before = parts.pid(part)
        with suppress(ProcessLookupError):
            os.kill(before, signal.SIGKILL)
        took.append((part, _seconds_until_back(parts, line, part, before)))
    line.close()
    return took


def _seconds_until_back(parts: Parts, line: Line, part: str, before: int) -> float:
    """How long a part that was just killed takes to be back and to stay: a new keeper ends what its
    forerunner left, so that all may seem to be there for a moment.
    """
    begun = time.monotonic()
    while time.monotonic() - begun < 120:
        if _is_back(parts, line, part, before):
            took = time.monotonic() - begun
            time.sleep(0.5)
            if _is_back(parts, line, part, before):
                return took
        time.sleep(0.1)
    raise RuntimeError(f"{part} did not come back")


def _is_back(parts: Parts, line: Line, part: str, before: int) -> bool:
    """Whether there is another of the killed part, all others are there, and pages come."""
    now = parts.pids()
    if now[part] == before or not all(now.values()):
        return False
    wanted = ("/api/yard", "/api/jobs/1", "/api/jobs/1/verdict", "/api/jobs/1/live")
    return all(line.ask("GET", path)[0] == 200 for path in wanted)
