"""What drawings need of the templates: lines of a margin note, and small drawings rendered once."""

from collections.abc import Callable
from textwrap import wrap

from jinja2 import Environment
from markupsafe import Markup

from bottega.core.diagnosis.words import fault_title
from bottega.web.drawing import Drawing

THUMBNAILS_KEPT = 512


def lines(text: str, width: int) -> list[str]:
    """Return the text in lines of at most ``width`` characters, at most two; what is left over ends in an ellipsis."""
    wrapped = wrap(text, width) or [""]
    if len(wrapped) > 2:
        wrapped = [wrapped[0], wrapped[1][: width - 1].rstrip() + "…"]
    return wrapped


def thumbnails(environment: Environment) -> Callable[[Drawing], Markup]:
    """Return what renders a small drawing without notes; the same suspicion on the same machine is drawn once."""
    kept: dict[tuple[str, tuple[tuple[str, str], ...]], Markup] = {}

    def thumbnail(drawing: Drawing) -> Markup:
        key = (drawing.template, tuple(sorted(drawing.marks.items())))
        if key not in kept:
            if len(kept) >= THUMBNAILS_KEPT:
                kept.clear()
            values = {"drawing": drawing, "link": "", "viewbox": "200 2 440 412", "places": {}}
            kept[key] = Markup(environment.get_template(drawing.template).render(values))
        return kept[key]

    return thumbnail


def install_filters(environment: Environment) -> None:
    """Add what drawings use."""
    environment.filters["lines"] = lines
    environment.globals["fault_title"] = fault_title
    environment.globals["thumbnail"] = thumbnails(environment)
