"""The whole product as README's command starts it, and a real Chromium in front of it."""

import os
import signal
import subprocess
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import pytest
from demo.browser import chromium
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


@pytest.fixture(scope="session")
def product() -> Iterator[Product]:
    port, box_port, db_port = free_port(), free_port(), free_port()
    data = ROOT / ".run" / f"browser-{os.getpid()}"
    environment = {
        **os.environ,
        "FLANEUR_PORT": str(port),
        "FLANEUR_BOX_PORT": str(box_port),
        "FLANEUR_LINK_PORT": str(free_port()),
        "FLANEUR_DB_PORT": str(db_port),
        "FLANEUR_DATA": str(data),
        "FLANEUR_COMPILE_AHEAD": "false",  # most tests ask for one book
    }
    log = (ROOT / ".run" / f"browser-{os.getpid()}.log").open("w+")
    server = subprocess.Popen(
        [ROOT / "script" / "server", "--fresh"],
        env=environment,
        stdout=log,
        stderr=subprocess.STDOUT,
        preexec_fn=_hears_ctrl_c,
    )
    for _ in range(480):
        log.seek(0)
        said = log.read()
        if "Flaneur is at" in said:
            break
        assert server.poll() is None, said
        time.sleep(0.5)
    yield Product(f"http://127.0.0.1:{port}", data, db_port)
    server.send_signal(signal.SIGINT)
    assert server.wait(timeout=90) == 0
    with pytest.raises(OSError, match=r"refused"):
        __import__("socket").create_connection(("127.0.0.1", db_port), timeout=1)
    log.close()
    subprocess.run(["rm", "-rf", str(data), log.name], check=False)


@pytest.fixture
def browser() -> Iterator[Chrome]:
    driver = chromium()
    yield driver
    driver.quit()
