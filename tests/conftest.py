"""What all tests share: the shipped book, a real PostgreSQL, a running stand-in box."""

import os
import socket
import subprocess
import threading
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine, create_engine, text
from xdist.scheduler import LoadFileScheduling

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain
from flaneur.formats.books import load_book
from flaneur.standins.box import make_box
from flaneur.standins.link import make_link
from flaneur.standins.server import Engines, Server
from flaneur.store.database import connect
from flaneur.store.migrate import migrate

ROOT = Path(__file__).parents[1]
BOOK_FILE = ROOT / "engines" / "ostrey-tansy.yaml"


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture(scope="session")
def book_text() -> str:
    return BOOK_FILE.read_text(encoding="utf-8")


@pytest.fixture(scope="session")
def book() -> EngineBook:
    return load_book(BOOK_FILE)


@pytest.fixture(scope="session")
def train(book: EngineBook) -> DriveTrain:
    return DriveTrain(book)


class Cluster:
    """A private PostgreSQL that can be stopped and started in the middle of a test."""

    def __init__(self, folder: Path, port: int) -> None:
        self.folder, self.port, self.has_template = folder, port, False
        self._bases: dict[str, str] = {}

    def run(self, verb: str, mode: str = "safe") -> str:
        command = [str(ROOT / "script" / "database"), verb, str(self.folder), str(self.port), mode]
        done = subprocess.run(command, capture_output=True, text=True, timeout=60, check=True)
        return done.stdout.strip()

    def url(self, role: str, database: str = "postgres") -> str:
        """Address of a database for ``app``, ``owner`` or ``setup``."""
        if role not in self._bases:
            self._bases[role] = self.run("url", role).rsplit("/", 1)[0]
        return f"{self._bases[role]}/{database}"

    def create(self, name: str, template: str) -> None:
        engine = create_engine(self.url("setup"), isolation_level="AUTOCOMMIT")
        with engine.connect() as connection:
            connection.execute(
                text(f"CREATE DATABASE {name} TEMPLATE {template} OWNER flaneur_owner")
            )
        engine.dispose()

    def new_database(self) -> str:
        """URL of a fresh, migrated database as the application signs in to it."""
        if not self.has_template:
            self.create("migrated", "template0")
            engine = connect(self.url("owner", "migrated"))
            migrate(engine)
            engine.dispose()
            self.has_template = True
        name = f"t{uuid.uuid4().hex[:12]}"
        self.create(name, "migrated")
        return self.url("app", name)

    def owner_of(self, url: str) -> Engine:
        """The same database as the role that owns it: who may bend what the application may not."""
        return create_engine(self.url("owner", url.rsplit("/", 1)[1]))


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    # Below the checkout, since PostgreSQL runs as another user who may not enter pytest's own
    # folders.
    folder = ROOT / ".run" / f"test-{os.getpid()}-{uuid.uuid4().hex[:6]}"
    found = Cluster(folder, free_port())
    found.run("start", "quick")
    yield found
    found.run("stop", "quick")
    subprocess.run(["rm", "-rf", str(folder)], check=False)


class ByFile(LoadFileScheduling):
    """A file's tests stay on one worker; those in the browser all on the same, so that one product
    serves them.
    """

    def _split_scope(self, nodeid: str) -> str:
        return "browser" if nodeid.startswith("tests/browser/") else super()._split_scope(nodeid)


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> ByFile:
    return ByFile(config, log)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The longest group begins first."""
    items.sort(key=lambda item: "browser" not in item.path.parts)


@pytest.fixture
def database_url(cluster: Cluster) -> str:
    return cluster.new_database()


@pytest.fixture(scope="module")
def box(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    engines = Engines(ROOT / "engines", tmp_path_factory.mktemp("box"))
    with make_box(("127.0.0.1", 0), engines) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield server
        server.shutdown()


@pytest.fixture(scope="module")
def link(box: Server) -> Iterator[Server]:
    """A vehicle link that looks at the same hidden engines as the box."""
    with make_link(("127.0.0.1", 0), box.engines) as server:
        threading.Thread(target=server.serve_forever, daemon=True).start()
        yield server
        server.shutdown()
