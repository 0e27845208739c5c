"""Where a meter may be: two forms, near addresses, and nothing of what was once opened."""

import pytest

from bottega.devices.address import (
    BadAddress,
    SerialAddress,
    SocketAddress,
    address_of,
    first_near,
    is_near,
)


@pytest.mark.parametrize(
    ("text", "address"),
    [
        ("TCPIP::192.168.1.20::5025::SOCKET", SocketAddress("192.168.1.20", 5025)),
        (" tcpip0::meter.local::1::socket ", SocketAddress("meter.local", 1)),
        ("TCPIP::[fd00::7]::5025::SOCKET", SocketAddress("fd00::7", 5025)),
        ("ASRL/dev/ttyUSB0::INSTR", SerialAddress("/dev/ttyUSB0")),
        ("/dev/ttyACM12", SerialAddress("/dev/ttyACM12")),
        ("com3", SerialAddress("COM3")),
    ],
)
def test_the_two_forms_are_read_and_written_alike(text, address):
    assert address_of(text) == address
    assert address_of(str(address)) == address


@pytest.mark.parametrize(
    "text",
    [
        "",
        "a meter",
        "ASRLspy:///dev/null?file=/tmp/shop.db::INSTR",
        "ASRLsocket://10.0.0.1:22::INSTR",
        "ASRLrfc2217://10.0.0.1:22::INSTR",
        "ASRLloop://::INSTR",
        "ASRLhwgrep://0::INSTR",
        "ASRLalt:///dev/ttyS0?class=PosixPollSerial::INSTR",
        "ASRL/dev/../tmp/x::INSTR",
        "ASRL/dev/ttyUSB0/../../etc/passwd::INSTR",
        "ASRL/dev/sda::INSTR",
        "/dev/ttyS",
        "/dev/ttyS0\n/x",
        "/dev/ttyS٣",
        "TCPIP::10.0.0.1::0::SOCKET",
        "TCPIP::10.0.0.1::70000::SOCKET",
        "TCPIP::10.0.0.1::inst0::INSTR",
        "TCPIP::a b::5025::SOCKET",
        "TCPIP::-x::5025::SOCKET",
        f"TCPIP::{'a' * 64}::5025::SOCKET",
        f"TCPIP::{'a.' * 200}b::5025::SOCKET",
        "TCPIP::[::1::5025::SOCKET",
        "USB0::1::2::3::INSTR",
        "GPIB0::7::INSTR",
    ],
)
def test_nothing_else_is_opened(text):
    with pytest.raises(BadAddress, match="found"):
        address_of(text)


@pytest.mark.parametrize(
    ("number", "near"),
    [
        ("127.0.0.1", True),
        ("10.1.2.3", True),
        ("172.16.0.1", True),
        ("172.31.255.255", True),
        ("192.168.255.1", True),
        ("::1", True),
        ("fd12::1", True),
        ("::ffff:10.0.0.1", True),
        ("172.32.0.1", False),
        ("169.254.169.254", False),
        ("8.8.8.8", False),
        ("0.0.0.0", False),
        ("224.0.0.1", False),
        ("fe80::1%eth0", False),
        ("::ffff:8.8.8.8", False),
    ],
)
def test_near_is_this_computer_and_private_networks(number, near):
    assert is_near(number) == near
    assert first_near([number]) == (number if near else None)
