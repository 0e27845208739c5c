"""Meters that are slow, endless or rude, each a real server: every wait ends, and every line comes
back by itself."""

from collections.abc import Iterator
from contextlib import contextmanager, suppress
from socket import create_server, socket
from threading import Event, Thread

import pytest

from bottega.devices.meter import Meter
from bottega.devices.scpi import MeterError, NoMeter
from bottega.devices.standin import Display, StandIn


@contextmanager
def rude(behave) -> Iterator[str]:
    """Serve with ``behave(connection, over)`` for each who calls; yield the line."""
    server, over = create_server(("127.0.0.1", 0)), Event()

    def serve() -> None:
        while not over.is_set():
            with suppress(OSError):
                connection, _ = server.accept()
                Thread(target=run, args=(connection,), daemon=True).start()

    def run(connection: socket) -> None:
        with connection, suppress(OSError):
            behave(connection, over)

    Thread(target=serve, daemon=True).start()
    yield f"TCPIP::127.0.0.1::{server.getsockname()[1]}::SOCKET"
    over.set()
    server.close()


def endless(connection, over):
    while not over.is_set():
        connection.sendall(b"9" * 65536)


def dribbles(connection, over):
    while not over.wait(0.02):
        connection.sendall(b"9")


def silent(connection, over):
    over.wait(5)


def hangs_up(connection, over):
    return


def not_letters(connection, over):
    connection.recv(100)
    connection.sendall(b"\xff\x00\xfe\n")
    over.wait(5)


@pytest.mark.parametrize(
    ("behave", "says"),
    [
        (endless, "found no end to what"),
        (dribbles, "takes too long"),
        (silent, "takes too long"),
        (hangs_up, "found no answer|found no way"),
    ],
)
def test_every_wait_ends_and_no_answer_grows(behave, says):
    with rude(behave) as line, pytest.raises(NoMeter, match=says):
        Meter(line, timeout_s=0.3)


def test_what_is_no_letter_is_no_reading():
    with rude(not_letters) as line:
        meter = Meter(line, timeout_s=0.3)
        with pytest.raises(MeterError):
            meter.read("resistance")
        meter.close()


@pytest.mark.parametrize("end", [b"\r", b"\n", b"\r\n"])
def test_a_line_ends_with_either_or_both(end):
    answers = {b"*IDN?": b"RUDE", b"FUNC?": b"RES", b"READ?": b"1.84E2"}

    def behave(connection, over):
        for words in connection.makefile("rb"):
            answer = answers.get(words.strip())
            if answer:
                connection.sendall(answer + end)

    with rude(behave) as line:
        meter = Meter(line, timeout_s=1.0)
        assert meter.identity == "RUDE"
        assert [meter.read("resistance") for _ in range(3)] == [184.0] * 3
        meter.close()


@pytest.mark.parametrize(
    "line",
    [
        "TCPIP::127.0.0.1::9::SOCKET",
        "TCPIP::no-such-host.invalid::5025::SOCKET",
        "TCPIP::203.0.113.9::5025::SOCKET",
        "ASRL/dev/ttyUSB99::INSTR",
        "ASRLspy:///dev/null?file=/tmp/x::INSTR",
    ],
)
def test_what_cannot_be_opened_is_no_meter(line):
    with pytest.raises(NoMeter):
        Meter(line, timeout_s=0.3)


def test_an_open_port_that_may_not_be_asked_says_the_same_as_a_closed_one(monkeypatch):
    monkeypatch.setattr("bottega.devices.stream.first_near", lambda numbers: None)
    words = []
    with rude(silent) as line:
        for one in (line, "TCPIP::127.0.0.1::9::SOCKET"):
            with pytest.raises(NoMeter) as error:
                Meter(one, timeout_s=0.3)
            words.append(str(error.value).replace(one, "it"))
    assert words[0] == words[1]


def test_closing_one_meter_leaves_another_alone():
    one, two = (StandIn(Display({"resistance": 7.0}.get)).start() for _ in range(2))
    first, second = Meter(one.resource), Meter(two.resource)
    first.close()
    assert second.read("resistance") is not None
    second.close()
    one.stop()
    two.stop()
