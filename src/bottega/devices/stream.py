"""Bytes to and from a meter, on a socket or a serial line: every wait has an end, and so has every
answer."""

import socket
from contextlib import suppress
from time import monotonic
from typing import Protocol

from bottega.devices.address import Address, SerialAddress, SocketAddress, first_near
from bottega.devices.scpi import NoMeter

MOST_BYTES = 4096
"""Bytes of an answer; chosen, the longest identity is a tenth of it."""
BAUD = 9600
"""Symbols a second of a serial line; the rate such instruments leave the factory with."""


class _Port(Protocol):
    """What carries bytes: both ends give up after so many seconds."""

    def send(self, words: bytes, seconds: float) -> None:
        """Send bytes."""

    def some(self, seconds: float) -> bytes:
        """Return the bytes that came, at most a few thousand; none where time is up."""

    def close(self) -> None:
        """Let it go."""


class Stream:
    """A line that is open. Raises NoMeter for whatever goes wrong on it."""

    def __init__(self, address: Address, seconds: float, anywhere: bool = False) -> None:
        """Open a line within ``seconds``; ``anywhere`` allows addresses beyond private networks."""
        self.name, self._seconds, self._rest = str(address), seconds, b""
        try:
            self._port = _opened(address, seconds, anywhere)
        except (OSError, ValueError, OverflowError) as error:
            raise NoMeter(_nothing_at(self.name)) from error

    def ask(self, words: str) -> str:
        """Send a line and return the line that comes back, ended by CR, LF or both."""
        self.say(words)
        until = monotonic() + self._seconds
        while True:
            line, ended, rest = _cut(self._rest)
            if ended:
                self._rest = rest
                return line.decode("ascii", "replace")
            if len(self._rest) > MOST_BYTES:
                raise NoMeter(f"found no end to what '{self.name}' sends, expected a line")
            left = until - monotonic()
            if left <= 0:
                raise NoMeter(f"found no answer from '{self.name}': it takes too long")
            self._rest += self._some(left)

    def say(self, words: str) -> None:
        """Send a line; what came unasked before is dropped."""
        self._rest = b""
        try:
            self._port.send(words.encode("ascii") + b"\n", self._seconds)
        except (OSError, ValueError) as error:
            raise NoMeter(f"found no way to '{self.name}'") from error

    def close(self) -> None:
        """Let it go."""
        with suppress(OSError, ValueError):
            self._port.close()

    def _some(self, seconds: float) -> bytes:
        try:
            return self._port.some(seconds)
        except EOFError as error:
            raise NoMeter(f"found no answer from '{self.name}': it hung up") from error
        except (OSError, ValueError) as error:
            raise NoMeter(f"found no answer from '{self.name}'") from error


def _nothing_at(name: str) -> str:
    """Return the one thing said of whatever cannot be opened, so that nobody learns by it which
    ports of which hosts are open."""
    return (
        f"found no meter at '{name[:80]}', expected one that is on, in a private network, at "
        "this address and port"
    )


def _cut(data: bytes) -> tuple[bytes, bool, bytes]:
    """Return the first line that is not empty, whether its end came, and what is after it."""
    data = data.lstrip(b"\r\n")
    ends = [place for place in (data.find(b"\r"), data.find(b"\n")) if place >= 0]
    if not ends:
        return data, False, b""
    return data[: min(ends)], True, data[min(ends) + 1 :]


def _opened(address: Address, seconds: float, anywhere: bool) -> _Port:
    if isinstance(address, SerialAddress):
        return _Serial(address.device)
    return _Socket(address, seconds, anywhere)


class _Socket:
    """A line on the network. The number that was found to be near is the one that is opened."""

    def __init__(self, address: SocketAddress, seconds: float, anywhere: bool) -> None:
        found = socket.getaddrinfo(address.host, address.port, type=socket.SOCK_STREAM)
        numbers = [str(one[4][0]) for one in found]
        number = numbers[0] if anywhere and numbers else first_near(numbers)
        if number is None:
            raise OSError("not near")
        self._socket = socket.create_connection((number, address.port), seconds)

    def send(self, words: bytes, seconds: float) -> None:
        self._socket.settimeout(seconds)
        self._socket.sendall(words)

    def some(self, seconds: float) -> bytes:
        self._socket.settimeout(seconds)
        try:
            came = self._socket.recv(MOST_BYTES)
        except TimeoutError:
            return b""
        if not came:
            raise EOFError
        return came

    def close(self) -> None:
        self._socket.close()


class _Serial:
    """A serial line of this computer, held by nobody else."""

    def __init__(self, device: str) -> None:
        from serial import Serial

        self._serial = Serial(device, BAUD, exclusive=True)

    def send(self, words: bytes, seconds: float) -> None:
        self._serial.write_timeout = seconds
        self._serial.write(words)

    def some(self, seconds: float) -> bytes:
        self._serial.timeout = seconds
        first: bytes = self._serial.read(1)
        waiting = min(int(self._serial.in_waiting), MOST_BYTES)
        return first + (self._serial.read(waiting) if first and waiting else b"")

    def close(self) -> None:
        self._serial.close()
