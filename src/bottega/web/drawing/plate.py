"""Section drawings as they are put on a page. What does not move from page to page is drawn once
and kept."""

from dataclasses import dataclass

from jinja2 import Environment
from markupsafe import Markup

from bottega.core.kept import Kept, Same
from bottega.core.library.archetype import DrawnPlace
from bottega.web.drawing.notes import Note
from bottega.web.drawing.section import Drawing

KEPT = 512
"""Chosen: a bench of two hundred jobs and the drawings of a hundred open pages, at some ten
kilobytes each."""
WHOLE, BARE = "0 2 800 412", "200 2 440 412"
"""A section drawing with its margins and without them, in drawing units."""
OVERLAY = Markup("<!--overlay-->")
"""Stands in a kept drawing where what moves is laid over it."""


@dataclass(frozen=True)
class _Look:
    """Everything the still part of a drawing depends on."""

    template: str
    marks: tuple[tuple[str, str], ...]
    looked: frozenset[str]
    gone: frozenset[str]
    water: bool
    link: str
    view: str


class Plates:
    """Draws sections; the same suspicion on the same machine is drawn once."""

    def __init__(self, environment: Environment) -> None:
        self._environment = environment
        self._kept: Kept[_Look, str] = Kept(KEPT)
        self._margins: Kept[Same[tuple[Note, ...]], str] = Kept(KEPT)

    def section(self, drawing: Drawing, places: dict[str, DrawnPlace], link: str) -> Markup:
        """Return a section with its way, marks, notes and legend; its parts link to ``link`` and
        their id."""
        laid = self._environment.get_template("drawing/_laid_over.svg")
        over = laid.render(drawing=drawing, places=places, margin=self._margin(drawing.notes))
        return Markup(self._still(drawing, link, WHOLE).replace(OVERLAY, over))

    def bare(self, drawing: Drawing, link: str = "") -> Markup:
        """Return a section without its margins, with what is open; without ``link`` a small one
        whose parts lead nowhere."""
        opened = self._environment.get_template("drawing/_opened.svg").render(drawing=drawing)
        return Markup(self._still(drawing, link, BARE).replace(OVERLAY, opened))

    def _margin(self, notes: tuple[Note, ...]) -> Markup:
        """Return the margin notes: they move with the belief, and stand while work goes on."""
        template = self._environment.get_template("drawing/_notes.svg")
        return Markup(self._margins.get(Same(notes), lambda: template.render(notes=notes)))

    def _still(self, drawing: Drawing, link: str, view: str) -> str:
        marks = tuple(sorted(drawing.marks.items()))
        state = _Look(
            drawing.template, marks, drawing.looked, drawing.gone, drawing.water, link, view
        )
        template = self._environment.get_template(drawing.template)
        values = {"drawing": drawing, "link": link, "viewbox": view, "overlay": OVERLAY}
        return self._kept.get(state, lambda: template.render(values))
