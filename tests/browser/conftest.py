"""The whole product as README's command starts it, and a real Chromium in front of it."""

import fcntl
import os
import signal
import socket
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import pytest
from demo.browser import chromium, resize
from selenium.webdriver import Chrome
from tests.support.cluster import ROOT, free_port


@dataclass
class Product:
    """A running script/server with its address and where its data lies."""

    address: str
    data: Path
    db_port: int

    def database(self, verb: str) -> None:
        """Stop it, and keep who would start it again from that; or start it."""
        hold = f"database hold {self.data / 'db'}"
        pause = "STOP" if verb == "stop" else "CONT"
        subprocess.run(["pkill", f"-{pause}", "-f", hold], check=True)
        command = [ROOT / "script" / "database", verb, self.data / "db", str(self.db_port)]
        subprocess.run([str(c) for c in command], check=True, timeout=60, capture_output=True)


def _hears_ctrl_c() -> None:
    """A shell in the background ignores Ctrl-C and hands that on; the server must hear it."""
    signal.signal(signal.SIGINT, signal.default_int_handler)


@contextmanager
def _server(data: Path, words: list[str], until: str) -> Iterator[dict[str, int]]:
    """script/server on ports of its own, as soon as it has said ``until``; stopped by Ctrl-C."""
    names = tuple(f"FLANEUR_{n}PORT" for n in ("", "BOX_", "LINK_", "WRENCH_", "DB_"))
    ports = {name: free_port() for name in names}
    environment = {
        **os.environ,
        **{name: str(port) for name, port in ports.items()},
        "FLANEUR_DATA": str(data),
        "FLANEUR_COMPILE_AHEAD": "false",  # most tests ask for one book
    }
    with data.with_suffix(".log").open("w+") as log:
        server = subprocess.Popen(
            [ROOT / "script" / "server", *words],
            env=environment,
            stdout=log,
            stderr=subprocess.STDOUT,
            preexec_fn=_hears_ctrl_c,
        )
        for _ in range(720):
            log.seek(0)
            said = log.read()
            if until in said:
                break
            assert server.poll() is None, said
            time.sleep(0.5)
        yield ports
        server.send_signal(signal.SIGINT)
        assert server.wait(timeout=90) == 0
        with pytest.raises(OSError, match=r"refused"):
            socket.create_connection(("127.0.0.1", ports["FLANEUR_DB_PORT"]), timeout=1)


def _demo(run: str) -> Path:
    """The data of a server that has loaded the demo: made by the first who asks in a run of the
    tests, copied by each.
    """
    data, made = ROOT / ".run" / "demo", ROOT / ".run" / "demo.made"
    with (ROOT / ".run" / "demo.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not made.exists() or made.read_text() != run:
            with _server(data, ["--fresh"], "Demo depot loaded."):
                pass
            made.write_text(run)
    return data


@pytest.fixture(scope="session")
def product(testrun_uid: str) -> Iterator[Product]:
    data = ROOT / ".run" / f"browser-{os.getpid()}"
    subprocess.run(["cp", "-a", _demo(testrun_uid), data], check=True)
    with _server(data, [], "Flaneur is at") as ports:
        yield Product(f"http://127.0.0.1:{ports['FLANEUR_PORT']}", data, ports["FLANEUR_DB_PORT"])
    subprocess.run(["rm", "-rf", data, data.with_suffix(".log")], check=False)


@pytest.fixture(scope="session")
def chrome() -> Iterator[Chrome]:
    driver = chromium()
    yield driver
    driver.quit()


@pytest.fixture
def browser(chrome: Chrome, product: Product) -> Chrome:
    """A tab of its own in which nobody has signed in and nothing is kept, as in a new browser."""
    before = chrome.window_handles
    chrome.switch_to.new_window("tab")
    fresh = chrome.current_window_handle
    for handle in before:
        chrome.switch_to.window(handle)
        chrome.close()
    chrome.switch_to.window(fresh)
    everything = {"origin": product.address, "storageTypes": "all"}
    chrome.execute_cdp_cmd("Storage.clearDataForOrigin", everything)
    chrome.execute_cdp_cmd("Network.clearBrowserCookies", {})
    chrome.get_log("browser")  # what the last one said
    resize(chrome, 1280, 800)
    return chrome
