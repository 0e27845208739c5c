"""A meter on a socket or a serial line, by its VISA resource string; PyVISA with its backend in
Python."""

import contextlib
from typing import Any

from bottega.devices.scpi import FUNCTIONS, NoMeter, WrongFunction, number_of

TIMEOUT_MS = 1500
"""How long an answer may take; chosen, three settling times of a slow range."""


class Meter:
    """A meter that is open; ``identity`` is what it says it is. Raises NoMeter where it cannot be
    reached."""

    def __init__(self, resource: str, timeout_ms: int = TIMEOUT_MS) -> None:
        import pyvisa

        self.resource = resource
        self._function = ""
        self._manager = pyvisa.ResourceManager("@py")
        try:
            self._line: Any = self._manager.open_resource(
                resource, read_termination="\n", write_termination="\n", timeout=timeout_ms
            )
        except (pyvisa.Error, OSError, ValueError, KeyError) as error:
            self._manager.close()
            raise NoMeter(f"found nothing at '{resource[:60]}': {_why(error)}") from error
        try:
            self.identity = self._ask("*IDN?").strip()
        except NoMeter:
            self.close()
            raise

    def read(self, quantity: str) -> float | None:
        """Return what it shows of a quantity, in the quantity's unit, None at overload. Raises
        MeterError."""
        function = FUNCTIONS[quantity]
        if self._function != function.node:
            self._say(f"CONF:{function.node}")
            self._function = function.node
        is_set = self._ask("FUNC?").strip().strip('"')
        if is_set != function.node:
            self._function = ""
            raise WrongFunction(
                f"found the meter set to {is_set[:12] or 'nothing'}, expected {function.node}"
            )
        value = number_of(self._ask("READ?"))
        return None if value is None else value * function.factor

    def close(self) -> None:
        """Let it go."""
        with contextlib.suppress(Exception):
            self._line.close()
        with contextlib.suppress(Exception):
            self._manager.close()

    def _ask(self, words: str) -> str:
        import pyvisa

        try:
            return str(self._line.query(words))
        except (pyvisa.Error, OSError, UnicodeDecodeError) as error:
            raise NoMeter(f"found no answer from '{self.resource[:60]}': {_why(error)}") from error

    def _say(self, words: str) -> None:
        import pyvisa

        try:
            self._line.write(words)
        except (pyvisa.Error, OSError) as error:
            raise NoMeter(f"found no way to '{self.resource[:60]}': {_why(error)}") from error


def found_resources() -> list[str]:
    """Return the resource strings of the serial lines that are plugged in. A meter on the network
    is not found so; its address is typed."""
    from serial.tools.list_ports import comports

    return sorted(f"ASRL{port.device}::INSTR" for port in comports())


def _why(error: BaseException) -> str:
    text = str(error)
    if "VI_ERROR_TMO" in text or "timed out" in text.lower():
        return "it takes too long"
    return text.split("\n")[0][:80] or type(error).__name__
