"""Where a meter is: the two forms of an instrument's line that are opened, and nothing else."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from ipaddress import IPv4Address, IPv6Address, ip_address, ip_network

FORMS = "TCPIP::192.168.1.20::5025::SOCKET, or a serial line as ASRL/dev/ttyUSB0::INSTR"
"""The two forms, as they are shown to whoever typed another."""
NEAR = tuple(
    ip_network(net)
    for net in ("127.0.0.0/8", "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "::1", "fc00::/7")
)
"""Loopback and private addresses: RFC 1918 and RFC 4193."""
_SOCKET = re.compile(r"TCPIP[0-9]?::([^\s:\[\]]+|\[[0-9a-f:.]+\])::([0-9]{1,5})::SOCKET", re.I)
_SERIAL = re.compile(r"(?:ASRL)?(/dev/tty(?:S|USB|ACM)[0-9]{1,3}|COM[0-9]{1,3})(?:::INSTR)?", re.I)
_HOST = re.compile(r"(?=.{1,253}$)[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?(\.[a-z0-9-]{1,63})*", re.I)


class BadAddress(ValueError):
    """A line that is of neither form."""


@dataclass(frozen=True)
class SocketAddress:
    """A meter on the network: its host, by name or number, and its port."""

    host: str
    port: int

    def __str__(self) -> str:
        host = f"[{self.host}]" if ":" in self.host else self.host
        return f"TCPIP::{host}::{self.port}::SOCKET"


@dataclass(frozen=True)
class SerialAddress:
    """A meter on a serial line of this computer."""

    device: str

    def __str__(self) -> str:
        return f"ASRL{self.device}::INSTR"


Address = SocketAddress | SerialAddress


def address_of(text: str) -> Address:
    """Return where a line leads. Raises BadAddress for whatever is not one of the two forms."""
    serial = _SERIAL.fullmatch(text.strip())
    if serial:
        device = serial.group(1)
        return SerialAddress(device if device.startswith("/") else device.upper())
    found = _SOCKET.fullmatch(text.strip())
    if not found:
        raise BadAddress(f"found '{text.strip()[:60]}', expected {FORMS}")
    host, port = found.group(1).strip("[]"), int(found.group(2))
    if not 1 <= port <= 65535:
        raise BadAddress(f"found the port {port}, expected 1 to 65535")
    if not (_is_number(host) or _HOST.fullmatch(host)):
        raise BadAddress(f"found the host '{host[:60]}', expected a name or an address")
    return SocketAddress(host, port)


def is_near(number: str) -> bool:
    """Return whether an address lies on this computer or in a private network."""
    address: IPv4Address | IPv6Address = ip_address(number.partition("%")[0])
    if isinstance(address, IPv6Address) and address.ipv4_mapped:
        address = address.ipv4_mapped
    return any(address in net for net in NEAR if net.version == address.version)


def first_near(numbers: Iterable[str]) -> str | None:
    """Return the first address that is near, None where none is."""
    return next((number for number in numbers if is_near(number)), None)


def _is_number(host: str) -> bool:
    try:
        ip_address(host)
    except ValueError:
        return False
    return True
