"""Every template gets what its typed context promises, and uses all of it; no address is typed."""

import re
from dataclasses import fields

import pytest
from jinja2 import meta, nodes
from tests.web.test_assets import TEMPLATES

from bottega.web.api.docs import DocsPage
from bottega.web.bench.routes import BenchPage
from bottega.web.call.routes import CallPage
from bottega.web.call.sheet import CallSheet
from bottega.web.close.sheet import CloseSheet
from bottega.web.compare.routes import ComparePage
from bottega.web.decide.sheet import DecideSheet
from bottega.web.fit.sheet import FitSheet
from bottega.web.handover.sheet import HandoverSheet
from bottega.web.job.page import JobPage, UnreadablePage
from bottega.web.kit.errors import ErrorPage
from bottega.web.kit.page import ROOMS, Frame, make_environment
from bottega.web.library.editor import EditPage, ImportPage, NewSheetPage
from bottega.web.library.machines import KeyPage, LibraryPage, LibraryReport, MachinePage
from bottega.web.open.sheet import OpenSheet
from bottega.web.panel.heard import HeardPage
from bottega.web.panel.routes import WhichPanel
from bottega.web.panel.sheet import PanelSheet
from bottega.web.proof.sheet import ProofSheet
from bottega.web.prove.mark import MarkSheet
from bottega.web.prove.part import PartSheet
from bottega.web.prove.sheet import FoundSheet, NothingSheet, StepSheet
from bottega.web.report.routes import ReportPage
from bottega.web.rig.page import RigPage
from bottega.web.rig.routes import LivePage, RigsPage
from bottega.web.rig.worth import WorthPage
from bottega.web.safe.sheet import SafeSheet
from bottega.web.shop.routes import ShopPage
from bottega.web.thinking.routes import ThinkingPage
from bottega.web.washer.routes import WasherPage

PAGES = [
    ("api/docs.html", DocsPage),
    ("bench/page.html", BenchPage),
    ("call/page.html", CallPage),
    ("compare/page.html", ComparePage),
    ("job/page.html", JobPage),
    ("job/unreadable.html", UnreadablePage),
    ("kit/error.html", ErrorPage),
    ("library/edit.html", EditPage),
    ("panel/heard.html", HeardPage),
    ("panel/which.html", WhichPanel),
    ("washer/page.html", WasherPage),
    ("rig/list.html", RigsPage),
    ("rig/live.html", LivePage),
    ("rig/page.html", RigPage),
    ("rig/worth.html", WorthPage),
    ("library/import.html", ImportPage),
    ("library/machine.html", MachinePage),
    ("library/new.html", NewSheetPage),
    ("library/page.html", LibraryPage),
    ("library/report.html", LibraryReport),
    ("library/which.html", KeyPage),
    ("report/page.html", ReportPage),
    ("shop/page.html", ShopPage),
    ("thinking/page.html", ThinkingPage),
]
SHEETS = [
    CallSheet,
    CloseSheet,
    DecideSheet,
    FitSheet,
    FoundSheet,
    HandoverSheet,
    MarkSheet,
    NothingSheet,
    OpenSheet,
    PanelSheet,
    PartSheet,
    ProofSheet,
    SafeSheet,
    StepSheet,
]
WHICH = re.compile(r'{%-? *(?:include|extends|import) "([^"]+\.(?:html|svg))" *(?:%|as)')
PARTS = {
    "proof/_sheet.html": [f"proof/_{kind}.html" for kind in ("proof", "clear", "cause", "recheck")],
}
"""Templates that are included by a name worked out in the template."""
ENVIRONMENT = make_environment()
EVERYWHERE = {f.name for f in fields(Frame)} | {"shop", "now", "url", "plates"}
EVERYWHERE |= set(ENVIRONMENT.globals)
PASSED_ON = {
    *("ui", "here", "link", "viewbox", "places", "drawing", "d", "drive", "dryer", "pump_x"),
    *("answer", "loading", "sheet", "step", "check", "reached", "outcome", "error", "lead", "debt"),
    *(
        "pin",
        "lane",
        "title",
        "q",
        "detail",
        "size",
        "ask",
        "still",
        "touch",
        "action",
        "test",
        "note",
        "face",
        "pad",
    ),
}
"""Names a template sets for those it includes."""


def with_parts(template, seen):
    """Return the sources of a template and of all it includes."""
    if template in seen:
        return []
    seen.add(template)
    source = (ROOMS / template).read_text(encoding="utf-8")
    named = [*WHICH.findall(source), *PARTS.get(template, [])]
    return [source, *(s for name in named for s in with_parts(name, seen))]


@pytest.mark.parametrize(("template", "context"), PAGES, ids=str)
def test_a_page_reads_its_context_and_nothing_else(template, context):
    sources = with_parts(template, set())
    read = set().union(*(undeclared(source) for source in sources))
    given = {field.name for field in fields(context)}
    assert read - given - EVERYWHERE - PASSED_ON == set()
    assert given - read == set()


def undeclared(source):
    """Return the names a template reads and neither sets nor defines as a macro of its own."""
    tree = ENVIRONMENT.parse(source)
    own = {macro.name for macro in tree.find_all(nodes.Macro)}
    own |= {n.target.name for n in tree.find_all(nodes.Assign) if isinstance(n.target, nodes.Name)}
    return meta.find_undeclared_variables(tree) - own


def attributes_of_sheet(sources):
    """Return what is read of the name ``sheet`` in some templates."""
    found = set()
    for source in sources:
        for node in ENVIRONMENT.parse(source).find_all(nodes.Getattr):
            if isinstance(node.node, nodes.Name) and node.node.name == "sheet":
                found.add(node.attr)
    return found


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda sheet: sheet.__name__)
def test_a_sheet_reads_its_context_and_nothing_else(sheet):
    sources = with_parts(sheet.template, {"call/_loading.html"})
    read = attributes_of_sheet(sources)
    given = {field.name for field in fields(sheet)}
    unread = {"id"} if sheet is PartSheet else set()
    assert read - given == set()
    assert given - read - unread == set()


@pytest.mark.parametrize("template", TEMPLATES, ids=lambda path: str(path.relative_to(ROOMS)))
def test_no_address_is_typed(template):
    text = template.read_text(encoding="utf-8")
    typed = re.findall(r'(?:href|action|hx-get|hx-post|sse-connect|src)="(/[^"]*)"', text)
    assert typed == []
