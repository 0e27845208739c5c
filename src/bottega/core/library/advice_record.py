"""Advice to the customer by cause, as it is written."""

from bottega.core.library.records import Ageing, Record


class AdviceTable(Record):
    """tables/advice.yaml: advice by fault, else by component; and by the way a fault comes with the
    years the reason why there is none."""

    source: str
    faults: dict[str, str]
    parts: dict[str, str]
    none: dict[Ageing, str]
