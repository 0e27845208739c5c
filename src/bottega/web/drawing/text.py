"""Words on drawings: broken into lines, at most two."""

from textwrap import wrap


def lines(text: str, width: int) -> list[str]:
    """Return the text in lines of at most ``width`` characters, at most two; what is left over ends
    in an ellipsis."""
    wrapped = wrap(text, width) or [""]
    if len(wrapped) > 2:
        wrapped = [wrapped[0], wrapped[1][: width - 1].rstrip() + "…"]
    return wrapped
