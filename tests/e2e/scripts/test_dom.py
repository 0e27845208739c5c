"""An element there must be is there, or the error names it."""

import pytest
from playwright.sync_api import Error

ASK = """async (selector) => {
  const { one } = await import("/static/scripts/dom.js");
  return one(selector).textContent;
}"""


def test_one_is_found_or_named(written):
    page = written('<p class="here">words</p>')
    assert page.evaluate(ASK, ".here") == "words"
    with pytest.raises(Error, match=r"found nothing for '\.gone', expected one element"):
        page.evaluate(ASK, ".gone")


def test_typing_is_taken_by_fields_alone(written):
    page = written(
        '<input><input type="radio"><textarea></textarea><select></select><button></button>'
    )
    takes = page.evaluate(
        """async () => {
          const { takesTyping } = await import("/static/scripts/dom.js");
          const all = document.body.querySelectorAll("input, textarea, select, button");
          return [...all].map(takesTyping);
        }"""
    )
    assert takes == [True, False, True, True, False]
