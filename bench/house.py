"""What benches stand on: a database of their own, an application on it, or the whole product as its
one command serves it.
"""

import os
import signal
import subprocess
import threading
import time
from collections.abc import Iterator
from contextlib import AbstractContextManager, contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from demo.depot import PASSWORD, PEOPLE
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import Engine
from tests.support.cluster import ROOT, Cluster, free_port, private_cluster
from werkzeug.test import TestResponse

from flaneur.api.app import create_app
from flaneur.api.settings import Settings
from flaneur.simulation.box import make_box
from flaneur.simulation.server import Engines
from flaneur.store.accounts import add_user
from flaneur.store.database import transaction
from flaneur.store.depot import keep_book
from flaneur.store.tables import Unit
from flaneur.store.units import add_unit

BOOK = ROOT / "engines" / "ostrey-tansy.yaml"


def _fill(engine: Engine) -> None:
    """What every database of a bench begins with: the demo's people, one book, one unit."""
    with transaction(engine) as session:
        for login, name, role in PEOPLE:
            add_user(session, login, name, role, PASSWORD)
        book = keep_book(session, BOOK.read_text(encoding="utf-8"))
        petrel = Unit(tag="PIL-9", name="Pilot boat Petrel", kind="pilot boat")
        add_unit(session, petrel, "PIL-9 main", book.id or 0, 3000, "the bench")


def cluster(is_tiny: bool) -> AbstractContextManager[Cluster]:
    """A PostgreSQL as the product runs it; where figures mean nothing, one that spares the disk."""
    return private_cluster("bench", "quick" if is_tiny else "safe", _fill)


@contextmanager
def box(folder: Path) -> Iterator[int]:
    """The stand-in capture box; its port."""
    with make_box(("127.0.0.1", 0), Engines(ROOT / "engines", folder)) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield int(server.server_address[1])
        server.shutdown()


def application(url: str, key_file: Path, box_port: int = 1, depot: str = "Bench depot") -> Flask:
    settings = Settings(
        database_url=url,
        secret="bench",
        signing_key_file=str(key_file),
        depot=depot,
        box_port=box_port,
    )
    return create_app(settings)


class Visitor:
    """Somebody signed in, who takes every answer as it comes."""

    def __init__(self, app: Flask, login: str) -> None:
        self.client: FlaskClient = app.test_client()
        self.token = self.client.get("/api/session").get_json()["csrf"]
        self.token = self.send(
            "POST", "/api/session", json={"login": login, "password": PASSWORD}
        ).get_json()["csrf"]

    def send(self, method: str, path: str, **body: Any) -> TestResponse:
        return self.client.open(path, method=method, headers={"X-CSRFToken": self.token}, **body)


@dataclass
class Served:
    """A running script/server."""

    address: str
    data: Path

    @property
    def database_url(self) -> str:
        """Where its database is reached as the application reaches it."""
        port = (self.data / "db" / "data" / "postmaster.pid").read_text().splitlines()[3]
        command = [ROOT / "script" / "database", "url", self.data / "db", port]
        return subprocess.run(command, capture_output=True, text=True, check=True).stdout.strip()


@contextmanager
def served(folder: Path = ROOT / ".run") -> Iterator[Served]:
    """The product as its one command serves it, with fresh demo data on ports of its own."""
    data = folder / f"bench-served-{time.time_ns()}"
    names = tuple(f"FLANEUR_{n}PORT" for n in ("", "BOX_", "LINK_", "WRENCH_", "DB_"))
    ports = {name: str(free_port()) for name in names}
    errors = (ROOT / ".run" / "bench-served.log").open(
        "w", encoding="utf-8"
    )  # kept: a 5xx is there
    server = subprocess.Popen(
        [ROOT / "script" / "server"],
        env={
            **os.environ,
            **ports,
            "FLANEUR_DATA": str(data),
        },
        stdout=subprocess.PIPE,
        stderr=errors,
        text=True,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.default_int_handler),
    )
    try:
        assert server.stdout is not None
        if not any("Flaneur is at" in line for line in server.stdout):
            raise RuntimeError(f"script/server ended by itself; it said why in {errors.name}")
        yield Served(f"http://127.0.0.1:{ports['FLANEUR_PORT']}", data)
    finally:
        server.send_signal(signal.SIGINT)
        server.wait(timeout=60)
        errors.close()
        subprocess.run(["rm", "-rf", str(data)], check=False)
