"""Tables as text: CSV from anywhere, line by line, whatever ends its lines (RFC 4180)."""

import csv
import io
from collections.abc import Iterator


class CsvError(ValueError):
    """A table that cannot be read: says the line and what is wrong with it."""


def lines_of(text: str, most: int, delimiter: str = ",") -> Iterator[tuple[int, list[str]]]:
    """Yield the lines of a table with their numbers, from one; empty ones are left out. Raises
    CsvError for what is no table, and for more than ``most`` lines after the head."""
    plain = text.replace("\r\n", "\n").replace("\r", "\n")
    reader, count = csv.reader(io.StringIO(plain), delimiter=delimiter), 0
    try:
        for line in reader:
            if not line:
                continue
            count += 1
            if count > most + 1:
                raise CsvError(f"found more than {most} lines, expected fewer")
            yield reader.line_num, line
    except csv.Error as error:
        raise CsvError(f"line {reader.line_num} cannot be read: {error}") from error
