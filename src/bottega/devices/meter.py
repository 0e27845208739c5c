"""A meter on a socket or a serial line, by the text of its line."""

from bottega.devices.address import BadAddress, address_of
from bottega.devices.scpi import FUNCTIONS, NoMeter, WrongFunction, number_of
from bottega.devices.stream import Stream

ANSWER_TIMEOUT_S = 1.5
"""How long an answer may take; chosen, three settling times of a slow range."""


class Meter:
    """A meter that is open; ``identity`` is what it says it is. Raises NoMeter where it cannot be
    reached, and where its line is none that is opened."""

    def __init__(
        self, resource: str, timeout_s: float = ANSWER_TIMEOUT_S, anywhere: bool = False
    ) -> None:
        """Open a meter; ``anywhere`` allows addresses beyond private networks."""
        self._function = ""
        try:
            address = address_of(resource)
        except BadAddress as error:
            raise NoMeter(str(error)) from error
        self._line = Stream(address, timeout_s, anywhere)
        try:
            self.identity = self._line.ask("*IDN?").strip()[:LONGEST_IDENTITY]
        except NoMeter:
            self.close()
            raise

    def read(self, quantity: str) -> float | None:
        """Return what it shows of a quantity, in the quantity's unit, None at overload. Raises
        MeterError."""
        function = FUNCTIONS[quantity]
        if self._function != function.node:
            self._line.say(f"CONF:{function.node}")
            self._function = function.node
        is_set = self._line.ask("FUNC?").strip().strip('"')
        if is_set != function.node:
            self._function = ""
            raise WrongFunction(
                f"found the meter set to {is_set[:12] or 'nothing'}, expected {function.node}"
            )
        value = number_of(self._line.ask("READ?"))
        return None if value is None else value * function.factor

    def close(self) -> None:
        """Let it go."""
        self._line.close()


LONGEST_IDENTITY = 120
"""Letters of what a meter says it is that are shown; chosen, two lines."""


def found_resources() -> list[str]:
    """Return the lines of the serial ports that are plugged in. A meter on the network is not found
    so; its address is typed."""
    from serial.tools.list_ports import comports

    found = []
    for port in comports():
        try:
            found.append(str(address_of(port.device)))
        except BadAddress:
            continue
    return sorted(found)
