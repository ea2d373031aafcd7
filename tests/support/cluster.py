"""A PostgreSQL of one's own: started, cloned from a migrated template, stopped at once."""

import hashlib
import os
import shutil
import socket
import subprocess
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import cached_property
from pathlib import Path

from sqlalchemy import Engine, create_engine, inspect, make_url, text

from flaneur.store.database import connect
from flaneur.store.migrate import migrate

ROOT = Path(__file__).parents[2]
TEMPLATE = "migrated"
MEMORY = Path("/dev/shm")
ENOUGH_BYTES = 2_000_000_000
CLUSTERS: dict[int, "Cluster"] = {}


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Cluster:
    """A private PostgreSQL that can be stopped and started in the middle of a test.

    ``fill`` puts into the template what every database of it begins with.
    """

    def __init__(
        self, folder: Path, port: int, fill: Callable[[Engine], None] = lambda _: None
    ) -> None:
        self.folder, self.port, self._fill = folder, port, fill
        self._has_template = False
        self._bases: dict[str, str] = {}
        CLUSTERS[port] = self

    def run(self, verb: str, mode: str = "safe") -> str:
        command = [ROOT / "script" / "database", verb, self.folder, str(self.port), mode]
        done = subprocess.run(command, capture_output=True, text=True, timeout=60, check=True)
        return done.stdout.strip()

    def url(self, role: str, database: str = "postgres") -> str:
        """Address of a database for ``app``, ``owner`` or ``setup``."""
        if role not in self._bases:
            self._bases[role] = self.run("url", role).rsplit("/", 1)[0]
        return f"{self._bases[role]}/{database}"

    def create(self, name: str, template: str) -> None:
        self._administer(f"CREATE DATABASE {name} TEMPLATE {template} OWNER flaneur_owner")

    def drop(self, url: str) -> None:
        """Let a database go, whoever is still connected."""
        self._administer(f"DROP DATABASE {url.rsplit('/', 1)[1]} WITH (FORCE)")

    def _administer(self, statement: str) -> None:
        with self._setup.connect() as connection:
            connection.execute(text(statement))

    @cached_property
    def _setup(self) -> Engine:
        """Kept between databases; a cluster that was stopped meanwhile is asked anew."""
        return create_engine(self.url("setup"), isolation_level="AUTOCOMMIT", pool_pre_ping=True)

    def new_database(self) -> str:
        """URL of a fresh, migrated database as the application signs in to it."""
        if not self._has_template:
            self.create(TEMPLATE, "template0")
            engine = connect(self.url("owner", TEMPLATE))
            migrate(engine)
            self._fill(engine)
            engine.dispose()
            self._has_template = True
        return self.clone(TEMPLATE)

    def clone(self, template: str) -> str:
        """URL of a fresh copy of a database nobody is connected to."""
        name = f"t{uuid.uuid4().hex[:12]}"
        self.create(name, template)
        return self.url("app", name)

    def owner_url(self, url: str) -> str:
        """The same database for the role that owns it."""
        return self.url("owner", url.rsplit("/", 1)[1])

    def owner_of(self, url: str) -> Engine:
        """The same database as its owner, who may bend what the application may not."""
        return create_engine(self.owner_url(url))


def contents(url: str) -> dict[str, str]:
    """A hash of every row of every table, by table."""
    engine = create_engine(url)
    with engine.connect() as connection:
        rows = {
            table: connection.execute(text(f'SELECT t::text FROM "{table}" t ORDER BY 1')).scalars()
            for table in inspect(engine).get_table_names()
        }
        found = {t: hashlib.sha256("\n".join(r).encode()).hexdigest() for t, r in rows.items()}
    engine.dispose()
    return found


def cluster_of(url: str) -> Cluster:
    """The cluster a database of these tests lies in."""
    port = make_url(url).port
    assert port is not None
    return CLUSTERS[port]


def _has_room(folder: Path) -> bool:
    return folder.is_dir() and shutil.disk_usage(folder).free > ENOUGH_BYTES


@contextmanager
def private_cluster(
    purpose: str, mode: str = "quick", fill: Callable[[Engine], None] = lambda _: None
) -> Iterator[Cluster]:
    """A running cluster, gone afterwards. ``quick`` spares the disk; ``safe`` is as the product
    runs it. It lies in memory where there is enough, else below the checkout: PostgreSQL's user
    may not enter others' folders.
    """
    room = MEMORY if mode == "quick" and _has_room(MEMORY) else ROOT / ".run"
    folder = room / f"flaneur-{purpose}-{os.getpid()}-{uuid.uuid4().hex[:6]}"
    found = Cluster(folder, free_port(), fill)
    try:
        found.run("start", mode)
        yield found
    finally:
        found.run("stop", "quick")
        subprocess.run(["rm", "-rf", str(folder)], check=False)
