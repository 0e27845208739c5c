"""Text laid out for drawings: lines of a margin note."""

from textwrap import wrap

from jinja2 import Environment

from bottega.core.diagnosis.words import fault_title


def lines(text: str, width: int) -> list[str]:
    """Return the text in lines of at most ``width`` characters, at most two; what is left over ends in an ellipsis."""
    wrapped = wrap(text, width) or [""]
    if len(wrapped) > 2:
        wrapped = [wrapped[0], wrapped[1][: width - 1].rstrip() + "…"]
    return wrapped


def install_filters(environment: Environment) -> None:
    """Add the filters drawings use."""
    environment.filters["lines"] = lines
    environment.globals["fault_title"] = fault_title
