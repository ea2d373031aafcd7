"""Records that can be trusted: forged job files never come in signed, and no write is lost, doubled
or put back.

Files: 100 with one value changed at random and 20 forged whole with another key, each brought into
a depot of its own. Writes: four people and the worker at two jobs at once, each change counted when
it is acknowledged, and looked for after.
"""

import io
import itertools
import json
import tempfile
import threading
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
from demo.depot import PASSWORD
from demo.walk import PARKED, answered, plunger_sheet
from flask import Flask
from sqlmodel import Session, func, select

from bench.figure import Figure, at_least, at_most
from bench.house import Cluster, Visitor, application, box, cluster
from bench.variants import tansy
from flaneur.core.faults.model import Faults
from flaneur.core.plan.steps import PlanStep
from flaneur.core.record.canonical import digest
from flaneur.core.record.chain import chain_faults
from flaneur.formats.archive import Archive, Statement, new_key, sign_statement, wrap
from flaneur.formats.captures import write_csv
from flaneur.jobs.decoding import decode_incoming
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.changes import chain_of, entries
from flaneur.store.tables import (
    BenchRecord,
    CaptureRow,
    Job,
    JournalEntry,
    ReadingRow,
    Report,
    Unit,
)

CHANGED, FORGED, WRITES, FILES = 100, 20, 2000, 24
TABLES = (Job, JournalEntry, ReadingRow, CaptureRow, BenchRecord, Report, Unit)


def run(is_tiny: bool = False) -> Iterator[Figure]:
    with (
        cluster(is_tiny) as found,
        tempfile.TemporaryDirectory() as folder,
        box(Path(folder) / "box") as box_port,
    ):
        key = Path(folder) / "key.pem"
        key.write_text(new_key(), encoding="ascii")
        home = application(found.new_database(), key, box_port)
        yield from _files(found, key, _signed(home), (1, 1) if is_tiny else (CHANGED, FORGED))
        yield from _writes(found, key, (8, 1) if is_tiny else (WRITES, FILES), Path(folder))


def _version(visitor: Visitor, job: int) -> int:
    return int(visitor.send("GET", f"/api/jobs/{job}").get_json()["version"])


class _Walk:
    """Two people taking one job through its stages."""

    def __init__(self, app: Flask) -> None:
        self.person, self.lead = Visitor(app, "ivo"), Visitor(app, "sunna")
        answer = self.person.send("POST", "/api/jobs", json={"unit_id": 1}).get_json()
        self.job, self.version = int(answer["id"]), int(answer["version"])

    def look(self, path: str) -> dict[str, Any]:
        return dict(self.person.send("GET", f"/api/jobs/{self.job}{path}").get_json())

    def change(self, method: str, path: str, by: Visitor | None = None, **body: Any) -> None:
        answer = (by or self.person).send(
            method, f"/api/jobs/{self.job}{path}", json={**body, "version": self.version}
        )
        if answer.status_code != 200:
            raise RuntimeError(f"{path}: {answer.status_code} {answer.text[:300]}")
        self.version = int(answer.get_json()["version"])


def _signed(app: Flask) -> dict[str, Any]:
    """A small job walked from complaint to signature, as its file."""
    walk = _Walk(app)
    walk.change("PUT", "/intake", complaint="Rattle on cold start.", hours="3000 h")
    walk.change("POST", "/captures/box", phasers=PARKED, seconds=1.5)
    walk.change("POST", "/readings/worksheet", **plunger_sheet("chain_a", "9 mm"))
    walk.change("PUT", "/plan", scope=["tensioner_b"])
    today = walk.look("/plan/estimate")["today"]
    yes = {"owner": "Harbour office", "how": "writing", "on": today, "most": 1e6}
    walk.change("POST", "/plan/agreed", **yes)
    if walk.look("/plan/go")["needs_go"]:
        walk.change("POST", "/plan/go", by=walk.lead)
    walk.change("POST", "/plan/start")
    for raw in walk.look("/bench")["steps"]:
        step = PlanStep.model_validate(raw)
        walk.change("POST", "/bench/steps", **answered(step))
    proof = walk.look("/proof")
    marks = dict.fromkeys(proof["mark_checks"], True)
    walk.change(
        "PUT", "/proof/hands", turns="2", hard_stop=False, marks=marks, pins_out=proof["pins_in"]
    )
    walk.change("POST", "/captures/box", phase="after", phasers=PARKED, seconds=1.5)
    walk.change("POST", "/proof/release")
    walk.change("POST", "/handover/sign", by=walk.lead, password=PASSWORD)
    return walk.look("/archive.json")


def _leaves(value: Any, path: tuple[Any, ...] = ()) -> Iterator[tuple[tuple[Any, ...], Any]]:
    inside = (
        value.items()
        if isinstance(value, dict)
        else enumerate(value)
        if isinstance(value, list)
        else None
    )
    if inside is None:
        yield path, value
    for key, part in inside or ():
        yield from _leaves(part, (*path, key))


def _other(value: Any, rng: np.random.Generator) -> Any:
    """Another value of the same kind."""
    if isinstance(value, bool):
        return not value
    if isinstance(value, int | float):
        return value + float(rng.choice([-1.0, 0.5, 1.0, 1e200]))
    if isinstance(value, str) and value:
        at = int(rng.integers(len(value)))
        return value[:at] + ("b" if value[at] != "b" else "c") + value[at + 1 :]
    return "changed"


def change_one(archive: dict[str, Any], rng: np.random.Generator) -> dict[str, Any]:
    """The file with one value changed: every part of it as likely as any other, whatever its
    size.
    """
    changed = json.loads(json.dumps(archive))
    part = str(rng.choice([k for k, v in changed.items() if v]))
    places = list(_leaves(changed[part], (part,)))
    path, value = places[int(rng.integers(len(places)))]
    inside = changed
    for key in path[:-1]:
        inside = inside[key]
    inside[path[-1]] = _other(value, rng)
    return changed


def forge_whole(archive: dict[str, Any], rng: np.random.Generator) -> dict[str, Any]:
    """A file forged with care: a reading changed, the chain and every hash made anew, sealed and
    signed with another key.
    """
    forged = json.loads(json.dumps(archive))
    forged["readings"][int(rng.integers(len(forged["readings"])))]["as_typed"] = (
        f"{rng.normal():.2f}°"
    )
    pem = new_key()
    found = Archive.model_validate(forged)
    assert found.seal is not None
    said = found.seal.statement.model_dump() | {"content_sha256": digest(found.content())}
    found = found.model_copy(update={"seal": sign_statement(pem, Statement.model_validate(said))})
    return json.loads(wrap(found, pem).model_dump_json())


def _counts(app: Flask) -> dict[str, int]:
    with Session(app.config["ENGINE"]) as session:
        return {t.__name__: session.exec(select(func.count()).select_from(t)).one() for t in TABLES}


def _files(
    found: Cluster, key: Path, archive: dict[str, Any], sizes: tuple[int, int]
) -> Iterator[Figure]:
    changed, forged = sizes
    told: Counter[str] = Counter()
    for number in range(changed + forged + 1):
        rng = np.random.default_rng(4000 + number)
        # The last is the file as it is: it must come in signed, or the rest proves nothing.
        file = (
            change_one(archive, rng)
            if number < changed
            else forge_whole(archive, rng)
            if number < changed + forged
            else archive
        )
        app = application(found.new_database(), key)
        visitor, before = Visitor(app, "pell"), _counts(app)
        content = io.BytesIO(json.dumps(file).encode())
        answer = visitor.send("POST", "/api/import", data={"file": (content, "job.json")})
        is_true = number == changed + forged
        told["5xx"] += answer.status_code >= 500
        if answer.status_code == 200:
            told["true" if is_true else "signed"] += _state(app) == "signed"
            page = visitor.send("GET", f"/api/jobs/{answer.get_json()['id']}")
            yard = visitor.send("GET", "/api/yard")
            told["pages"] += page.status_code != 200 or yard.status_code != 200
        else:
            told["half"] += _counts(app) != before
        app.config["ENGINE"].dispose()
    yield at_least("records", "the file as it is comes in signed", told["true"], 1)
    yield at_most(
        "records",
        f"changed ({changed}) and forged ({forged}) files that came in signed",
        told["signed"],
        0,
    )
    yield at_most("records", "such files answered with 5xx", told["5xx"], 0)
    yield at_most("records", "refused files that left something behind", told["half"], 0)
    yield at_most("records", "files taken in whose pages do not open", told["pages"], 0)


def _state(app: Flask) -> str:
    with Session(app.config["ENGINE"]) as session:
        job = session.exec(select(Job)).first()
        return "signed" if job is not None and job.signed_at is not None else "open"


class _Writer(threading.Thread):
    """One person changing two jobs as fast as answers come, with whatever version was last heard
    of.
    """

    def __init__(self, app: Flask, login: str, jobs: list[int], wanted: int, seed: int) -> None:
        super().__init__()
        self.visitor, self.jobs, self.wanted = Visitor(app, login), jobs, wanted
        self.rng = np.random.default_rng(seed)
        self.name_of = f"{login}-{seed}"
        self.done: list[tuple[int, int, str]] = []
        self.refused = self.odd = 0

    def run(self) -> None:
        known = {job: _version(self.visitor, job) for job in self.jobs}
        while len(self.done) < self.wanted:
            job = int(self.rng.choice(self.jobs))
            mark = f"{self.name_of}-{len(self.done)}x"
            body: dict[str, Any] = {"version": known[job]}
            if self.rng.random() < 0.75:
                method, path = "PUT", "/intake"
                body |= {"complaint": mark}
            else:
                method, path = "POST", "/readings/cam"
                body |= {
                    "cam": "cam_a_in",
                    "value": "1.5°",
                    "degrees_of": "crank",
                    "positive": "retard",
                    "tool": mark,
                }
            answer = self.visitor.send(method, f"/api/jobs/{job}{path}", json=body)
            if answer.status_code == 200:
                known[job] = int(answer.get_json()["version"])
                self.done.append((job, known[job], mark))
            else:
                self.refused += answer.status_code == 409
                self.odd += answer.status_code != 409
                known[job] = _version(self.visitor, job)


def _writes(found: Cluster, key: Path, sizes: tuple[int, int], folder: Path) -> Iterator[Figure]:
    writes, files = sizes
    app = application(found.new_database(), key)
    first = Visitor(app, "ivo")
    jobs = [
        int(first.send("POST", "/api/jobs", json={"unit_id": 1}).get_json()["id"]) for _ in range(2)
    ]
    path = folder / "capture.csv"
    write_csv(
        synthesise(tansy(), Faults(), Conditions(seconds=1.2), np.random.default_rng(1)), path
    )
    waiting: list[int] = []
    for number in range(files):
        with path.open("rb") as file:
            answer = first.send(
                "POST",
                f"/api/jobs/{jobs[number % 2]}/captures/file",
                data={"file": (file, "capture.csv")},
            )
        waiting.append(int(answer.get_json()["id"]))
    engine, versions = app.config["ENGINE"], list[list[int]]()

    def work() -> None:
        for incoming in [
            w for pair in zip(waiting, waiting, strict=True) for w in pair
        ]:  # every file offered twice
            decode_incoming(engine, incoming)

    def watch(stop: threading.Event) -> None:
        while not stop.wait(0.05):
            with Session(engine) as session:
                versions.append([session.get_one(Job, job).version for job in jobs])

    writers = [
        _Writer(app, login, jobs, writes // 4, seed)
        for seed, login in enumerate(("ivo", "pell", "sunna", "ivo"))
    ]
    stop = threading.Event()
    threads = [
        *writers,
        *(threading.Thread(target=work) for _ in range(2)),
        threading.Thread(target=watch, args=(stop,)),
    ]
    for thread in threads:
        thread.start()
    for thread in threads[:-1]:
        thread.join()
    stop.set()
    threads[-1].join()
    yield from _told(app, jobs, writers, versions, files)
    app.config["QUEUE"].close()
    engine.dispose()


def _told(
    app: Flask, jobs: list[int], writers: list[_Writer], versions: list[list[int]], files: int
) -> Iterator[Figure]:
    done = [(job, version, mark) for writer in writers for job, version, mark in writer.done]
    lost = doubled = broken = behind = 0
    with Session(app.config["ENGINE"]) as session:
        for job in jobs:
            notes = entries(session, job)
            said = {n.version: n for n in notes}
            row = session.get_one(Job, job)
            readings = [
                r.instrument
                for r in session.exec(select(ReadingRow).where(ReadingRow.job_id == job))
            ]
            for at, version, mark in done:
                if at == job:
                    lost += version not in said or not (
                        mark in said[version].words or mark in readings
                    )
            doubled += len(notes) - len(said)
            doubled += sum(n - 1 for n in Counter(v for at, v, _ in done if at == job).values())
            broken += len(chain_faults(row.number, chain_of(session, job)))
            behind += row.version != max(said)
        kept = session.exec(select(func.count()).select_from(CaptureRow)).one()
    falls = sum(
        b < a for one, two in itertools.pairwise(versions) for a, b in zip(one, two, strict=True)
    )
    yield at_least(
        "records",
        f"writes acknowledged (refused as stale: {sum(w.refused for w in writers)})",
        len(done),
        len(done),
    )
    yield at_most("records", "acknowledged writes lost", lost, 0)
    yield at_most("records", "versions or entries doubled", doubled, 0)
    yield at_most("records", f"versions seen to fall, in {len(versions)} looks", falls + behind, 0)
    yield at_most("records", "faults in the journals' chains", broken, 0)
    yield at_most("records", "answers other than kept or stale", sum(w.odd for w in writers), 0)
    yield at_most(
        "records",
        f"captures more or fewer than the {files} files, each offered to two workers twice",
        abs(kept - files),
        0,
    )
