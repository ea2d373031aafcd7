"""Every subject of script/bench that measures a running product runs: as little of each as shows
that none is broken. Figures mean nothing here.
"""

from bench import api, disk, load, once, pages, presses, screens, turning
from bench.house import Served
from tests.browser.conftest import Product


def test_turning_runs(product: Product) -> None:
    assert {f.subject for f in turning.measure(product.address, 0.5)} == {"turning"}


def test_pages_run(product: Product) -> None:
    assert {f.subject for f in pages.measure(product.address, 1, 1)} == {"pages"}
    assert {f.subject for f in screens.measure(product.address, 1)} == {"pages"}


def test_no_made_up_request_breaks_the_server_or_surprises_the_document(product: Product) -> None:
    figures = list(api.measure(Served(product.address, product.data), is_tiny=True))
    assert all(f.holds for f in figures), figures


def test_a_bench_walked_while_things_are_killed_loses_nothing(product: Product) -> None:
    figures = list(once.measure(Served(product.address, product.data), 1))
    assert all(f.holds for f in figures), figures


def test_a_workshops_load_runs_and_everybody_is_answered(product: Product) -> None:
    figures = list(load.measure(Served(product.address, product.data), is_tiny=True))
    answered = [f for f in figures if "answered well" in f.name]
    assert len(answered) == 4
    assert all(f.holds for f in answered), answered


def test_a_backup_is_brought_in_elsewhere(product: Product) -> None:
    figures = list(disk.restored(Served(product.address, product.data)))
    assert [f.name for f in figures if not f.holds] == []


def test_presses_are_counted(product: Product) -> None:
    figures = list(presses.measure(Served(product.address, product.data), 10.0, most=2))
    assert [f.name for f in figures if not f.holds] == []
