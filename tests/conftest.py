"""What all tests share: the shipped book, a real PostgreSQL, a running stand-in box."""

import os
import socket
import subprocess
import threading
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from sqlalchemy import create_engine, text

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
        self.folder, self.port = folder, port

    def run(self, verb: str) -> str:
        command = [str(ROOT / "script" / "database"), verb, str(self.folder), str(self.port), "quick"]
        done = subprocess.run(command, capture_output=True, text=True, timeout=60, check=True)
        return done.stdout.strip()

    def new_database(self) -> str:
        """URL of a fresh, migrated database."""
        url = self.run("url")
        name = f"t{uuid.uuid4().hex[:12]}"
        engine = create_engine(url, isolation_level="AUTOCOMMIT")
        with engine.connect() as connection:
            connection.execute(text(f"CREATE DATABASE {name}"))
        engine.dispose()
        fresh = url.rsplit("/", 1)[0] + f"/{name}"
        engine = connect(fresh)
        migrate(engine)
        engine.dispose()
        return fresh


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    # Below the checkout, since PostgreSQL runs as another user who may not enter pytest's own folders.
    folder = ROOT / ".run" / f"test-{os.getpid()}-{uuid.uuid4().hex[:6]}"
    found = Cluster(folder, free_port())
    found.run("start")
    yield found
    found.run("stop")
    subprocess.run(["rm", "-rf", str(folder)], check=False)


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
