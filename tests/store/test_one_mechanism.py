"""Whatever is kept goes through one mechanism: a method of the store that writes in one
transaction, on condition of what was there before. No page and no use case opens its own."""

import ast
import inspect
from pathlib import Path

import pytest

import bottega
from bottega.store.log import EventLog
from bottega.store.rigs import RigStore
from bottega.store.sheets import SheetStore
from bottega.store.shop import ShopStore
from bottega.store.summaries import Summaries

SOURCE = Path(bottega.__file__).parent
CONDITIONS = {
    EventLog.create: "number",
    EventLog.append: "after_seq",
    SheetStore.append: "after_seq",
    ShopStore.change_settings: "change",
    ShopStore.change_member: "role",
    Summaries.keep: "summary",
    RigStore.keep: "ticket",
    RigStore.leave: "acts",
}
"""Every method that writes, and what makes sure that nothing is lost by it: the place after which
it may stand, or how what is stored is changed. A summary says up to which entry it was worked out;
a machine's ticket is bound under the machine's own lock."""


def writers():
    """Return the functions that open a transaction that writes, as module and name."""
    for file in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.FunctionDef) and opens(node):
                yield file.relative_to(SOURCE).as_posix(), node.name


def opens(node):
    calls = (one for one in ast.walk(node) if isinstance(one, ast.Call))
    return any(isinstance(c.func, ast.Attribute) and c.func.attr == "writing" for c in calls)


def test_only_the_store_writes_and_each_of_its_writers_is_known():
    found = {pair for pair in writers() if not pair[0].startswith("benchmark/")}
    known = {
        (f"store/{inspect.getmodule(one).__name__.rsplit('.', 1)[1]}.py", one.__name__)
        for one in CONDITIONS
    }
    assert found == known


@pytest.mark.parametrize("writer", CONDITIONS)
def test_each_says_on_what_condition_it_writes(writer):
    assert CONDITIONS[writer] in inspect.signature(writer).parameters


def test_the_rule_can_fail():
    wild = ast.parse("def page(db):\n    with db.writing() as session:\n        session.add(1)\n")
    assert opens(wild.body[0])
