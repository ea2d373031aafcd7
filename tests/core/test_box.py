"""The stand-in box over its real protocol."""

import json
import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from tests.support.cluster import free_port

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import DeviceError
from flaneur.core.faults.model import Faults
from flaneur.core.signals.correlation import correlate
from flaneur.devices.box import BoxClient
from flaneur.formats.devices.lines import BOX_PROTOCOL
from flaneur.simulation.server import Server


def client(box: Server) -> BoxClient:
    return BoxClient("127.0.0.1", box.server_address[1], timeout_s=30)


def late(box: Server, book: EngineBook, unit: str, **commands: float) -> dict[str, float]:
    capture = client(box).capture(book.name, unit, 2.0, 50_000, commands)
    return {c.cam: c.deviation_deg for c in correlate(capture, book).cams}


def test_says_hello_and_which_engines_it_knows(box: Server, book: EngineBook) -> None:
    hello = client(box).ask({"do": "hello"})
    assert hello["stand_in"] is True
    assert book.name in hello["engines"]


def test_records_the_hidden_faults_of_a_unit(box: Server, book: EngineBook) -> None:
    hidden = Faults(jumped_teeth={"chain_a/cam_a_ex": 1})
    client(box).ask(
        {"do": "hide", "engine": book.name, "unit": "u1", "faults": hidden.model_dump()}
    )
    found = late(box, book, "u1")
    assert found["cam_a_ex"] == pytest.approx(20, abs=0.2)
    assert found["cam_b_ex"] == pytest.approx(0, abs=0.2)
    assert late(box, book, "never-heard-of")["cam_a_ex"] == pytest.approx(0, abs=0.2)


def test_obeys_a_phaser_command(box: Server, book: EngineBook) -> None:
    assert late(box, book, "u2", phaser_b=16.0)["cam_b_in"] == pytest.approx(-16, abs=0.2)


def test_a_repair_changes_only_what_was_renewed(box: Server, book: EngineBook) -> None:
    hidden = Faults(elongation_pct={"chain_a": 0.8, "chain_b": 0.8})
    talk = client(box)
    talk.ask({"do": "hide", "engine": book.name, "unit": "u3", "faults": hidden.model_dump()})
    repair = {
        "do": "repair",
        "engine": book.name,
        "unit": "u3",
        "renewed": ["chain_a_part"],
        "came_off": ["chain_a_part"],
    }
    talk.ask(repair)
    found = late(box, book, "u3")
    assert found["cam_a_ex"] == pytest.approx(0, abs=0.2)
    assert found["cam_b_ex"] > 5
    talk.ask({**repair, "tooth_errors": {"chain_a/cam_a_ex": 1}})
    assert late(box, book, "u3")["cam_a_ex"] == pytest.approx(20, abs=0.2)
    talk.ask(repair)
    assert late(box, book, "u3")["cam_a_ex"] == pytest.approx(0, abs=0.2)


@pytest.mark.parametrize(
    ("message", "words"),
    [
        ({"do": "dance", "engine": "Ostrey Tansy"}, "does not know this command"),
        ({"do": "capture", "engine": "Nobody's"}, "knows no engine"),
        (
            {
                "do": "capture",
                "engine": "Ostrey Tansy",
                "unit": "../etc",
                "seconds": 1,
                "rate_hz": 50000,
            },
            "not a unit's name",
        ),
        (
            {
                "do": "capture",
                "engine": "Ostrey Tansy",
                "unit": "u",
                "seconds": 9999,
                "rate_hz": 50000,
            },
            "cannot record",
        ),
        ({"do": "capture", "engine": "Ostrey Tansy", "unit": "u"}, "not complete"),
        (
            {
                "do": "hide",
                "engine": "Ostrey Tansy",
                "unit": "u",
                "faults": {"elongation_pct": {"x": 1}},
            },
            "do not belong",
        ),
    ],
)
def test_refuses_in_words(box: Server, message: dict[str, object], words: str) -> None:
    with pytest.raises(DeviceError, match=words):
        client(box).ask(message)


def test_a_box_that_is_off_is_named() -> None:
    with pytest.raises(DeviceError, match="does not answer") as error:
        BoxClient("127.0.0.1", free_port(), timeout_s=2).ask({"do": "hello"})
    assert "drop in a capture" in error.value.advice


@contextmanager
def impostor(*lines: bytes) -> Iterator[BoxClient]:
    """A server that says these bytes and hangs up."""
    with socket.create_server(("127.0.0.1", 0)) as server:

        def speak() -> None:
            connection, _ = server.accept()
            with connection:
                connection.sendall(b"".join(lines))
                connection.settimeout(1)
                try:
                    connection.recv(65536)
                except OSError:
                    return

        thread = threading.Thread(target=speak, daemon=True)
        thread.start()
        yield BoxClient("127.0.0.1", server.getsockname()[1], timeout_s=3)
        thread.join(3)


HELLO = json.dumps({"protocol": BOX_PROTOCOL}).encode() + b"\n"


@pytest.mark.parametrize(
    ("said", "words"),
    [
        ((b"SSH-2.0\n",), "speaks another language"),
        ((b'{"protocol": "other/9"}\n',), "not a capture box"),
        ((b"[1]\n",), "speaks another language"),
        ((HELLO, b'{"rate_hz": 5'), "broke off"),
        (
            (
                HELLO,
                b'{"rate_hz": 50000, "samples": 100, "channels": ["crank"], '
                b'"volts_per_count": 0.001}\n',
                b"abc",
            ),
            "lost in the middle",
        ),
    ],
)
def test_a_box_that_fails_in_the_middle_is_told_apart(said: tuple[bytes, ...], words: str) -> None:
    with impostor(*said) as talk, pytest.raises(DeviceError, match=words):
        talk.capture("Ostrey Tansy", "u", 1, 50_000, {})
