"""What benches stand on: a database of their own, an application on it, or the whole product as its
one command serves it.
"""

import os
import signal
import socket
import subprocess
import threading
import time
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from demo.depot import PASSWORD, PEOPLE
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import create_engine, text
from werkzeug.test import TestResponse

from flaneur.api.app import create_app
from flaneur.api.settings import Settings
from flaneur.standins.box import make_box
from flaneur.standins.server import Engines
from flaneur.store.accounts import add_user
from flaneur.store.database import connect, transaction
from flaneur.store.depot import keep_book
from flaneur.store.migrate import migrate
from flaneur.store.tables import Unit

ROOT = Path(__file__).parents[1]
BOOK = ROOT / "engines" / "ostrey-tansy.yaml"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@dataclass
class Cluster:
    """A private PostgreSQL with one migrated database that others are cloned from."""

    folder: Path
    port: int

    def url(self, role: str, database: str = "postgres") -> str:
        command = [str(ROOT / "script" / "database"), "url", str(self.folder), str(self.port), role]
        done = subprocess.run(command, check=True, capture_output=True, text=True)
        return f"{done.stdout.strip().rsplit('/', 1)[0]}/{database}"

    def _clone(self, name: str, template: str) -> str:
        engine = create_engine(self.url("setup"), isolation_level="AUTOCOMMIT")
        with engine.connect() as connection:
            connection.execute(
                text(f"CREATE DATABASE {name} TEMPLATE {template} OWNER flaneur_owner")
            )
        engine.dispose()
        return name

    def prepare(self) -> None:
        """The database that others are cloned from: migrated, with the demo's people and one
        unit.
        """
        engine = connect(self.url("owner", self._clone("first", "template0")))
        migrate(engine)
        with transaction(engine) as session:
            for login, name, role in PEOPLE:
                add_user(session, login, name, role, PASSWORD)
            book = keep_book(session, BOOK.read_text(encoding="utf-8"))
            session.add(
                Unit(
                    tag="PIL-9",
                    name="Pilot boat Petrel",
                    kind="pilot boat",
                    hours=3000,
                    book_id=book.id or 0,
                )
            )
        engine.dispose()

    def database(self) -> str:
        """Address of a fresh clone as the application signs in to it."""
        return self.url("app", self._clone(f"b{uuid.uuid4().hex[:12]}", "first"))

    def owner(self, url: str) -> str:
        return self.url("owner", url.rsplit("/", 1)[1])


@contextmanager
def cluster() -> Iterator[Cluster]:
    folder, port = ROOT / ".run" / f"bench-{time.time_ns()}", free_port()
    command = [str(ROOT / "script" / "database")]
    try:
        subprocess.run([*command, "start", str(folder), str(port)], check=True)
        found = Cluster(folder, port)
        found.prepare()
        yield found
    finally:
        subprocess.run([*command, "stop", str(folder), str(port)], check=False)
        subprocess.run(["rm", "-rf", str(folder)], check=False)


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


@contextmanager
def served() -> Iterator[Served]:
    """The product as its one command serves it, with fresh demo data on ports of its own."""
    data = ROOT / ".run" / f"bench-served-{time.time_ns()}"
    names = ("FLANEUR_PORT", "FLANEUR_BOX_PORT", "FLANEUR_LINK_PORT", "FLANEUR_DB_PORT")
    ports = {name: str(free_port()) for name in names}
    server = subprocess.Popen(
        [ROOT / "script" / "server"],
        env={**os.environ, **ports, "FLANEUR_DATA": str(data)},
        stdout=subprocess.PIPE,
        stderr=subprocess.DEVNULL,
        text=True,
        preexec_fn=lambda: signal.signal(signal.SIGINT, signal.default_int_handler),
    )
    try:
        assert server.stdout is not None
        for line in server.stdout:
            if "Flaneur is at" in line:
                break
        yield Served(f"http://127.0.0.1:{ports['FLANEUR_PORT']}", data)
    finally:
        server.send_signal(signal.SIGINT)
        server.wait(timeout=60)
        subprocess.run(["rm", "-rf", str(data)], check=False)
