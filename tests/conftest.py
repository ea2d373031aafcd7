"""What all tests share: the shipped book, a real PostgreSQL, a running stand-in box."""

import threading
from collections.abc import Iterator
from typing import Any
from unittest.mock import patch

import pytest
from tests.support.cluster import ROOT, Cluster, private_cluster
from tests.support.depot import BOOK_FILE, furnish
from werkzeug.routing import Rule
from xdist.scheduler import LoadFileScheduling

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain
from flaneur.formats.books import load_book
from flaneur.simulation.box import make_box
from flaneur.simulation.link import make_link
from flaneur.simulation.server import Engines, Server


@pytest.fixture(scope="session", autouse=True)
def addresses_compiled_once() -> Iterator[None]:
    """Werkzeug compiles anew for every application how its addresses are written; there is one
    application a test, and all have the same ones.
    """
    compiled = dict[Any, Any]()
    compiling = Rule._compile_builder

    def once(rule: Rule, append_unknown: bool = True) -> Any:
        key = (tuple(rule._trace), repr(rule.defaults), append_unknown)
        if key not in compiled:
            compiled[key] = compiling(rule, append_unknown)
        return compiled[key]

    with patch.object(Rule, "_compile_builder", once):
        yield


@pytest.fixture(scope="session")
def book_text() -> str:
    return BOOK_FILE.read_text(encoding="utf-8")


@pytest.fixture(scope="session")
def book() -> EngineBook:
    return load_book(BOOK_FILE)


@pytest.fixture(scope="session")
def train(book: EngineBook) -> DriveTrain:
    return DriveTrain(book)


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    with private_cluster("test") as found:
        yield found


@pytest.fixture(scope="session")
def furnished(cluster: Cluster) -> str:
    """The name of a database with two people and a unit, made once; tests get clones of it."""
    url = cluster.new_database()
    owner = cluster.owner_of(url)
    assert furnish(owner) == 1
    owner.dispose()
    return url.rsplit("/", 1)[1]


FIRST_PRODUCT = tuple(
    f"tests/browser/test_{of}.py" for of in ("bench_small", "engine_books", "views")
)


class ByFile(LoadFileScheduling):
    """A file's tests stay on one worker; those in the browser on two, so that two products serve
    them all.
    """

    def _split_scope(self, nodeid: str) -> str:
        if not nodeid.startswith("tests/browser/"):
            return super()._split_scope(nodeid)
        is_first = nodeid.startswith(FIRST_PRODUCT)
        return "browser, first product" if is_first else "browser, second product"


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> ByFile:
    return ByFile(config, log)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What takes longest begins first."""
    items.sort(key=lambda item: ("browser" not in item.path.parts, "bench" not in item.path.stem))


@pytest.fixture
def database_url(cluster: Cluster) -> Iterator[str]:
    url = cluster.new_database()
    yield url
    cluster.drop(url)


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
