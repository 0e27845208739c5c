"""The built css covers the templates' classes, its colours are readable, and nothing shipped
reaches outside."""

import re

import pytest

from bottega.web.application import STATIC
from bottega.web.kit.page import ROOMS

TEMPLATES = sorted(
    f for f in ROOMS.rglob("*") if f.suffix in (".html", ".svg") and "static" not in f.parts
)
CSS = (STATIC / "app.css").read_text(encoding="utf-8")
DATA_WORDS = {
    *("here", "codes", "value", "raw"),
    "none",
    "open",
    "done",
    "in",
    "on",
    "out",
    "held",
    "true",
    "faint",
    "bellows",
    "qualified",
    "sits",
}
"""Words of expressions inside class attributes that are compared with, not written out."""
HOOKS = {
    "section",
    "note",
    "legendbox",
    "hatch",
    "later",
    "placecell",
    "wide-state",
    "between",
    "wide-only",
}


def classes_in(text: str) -> set[str]:
    found: set[str] = set()
    for value in re.findall(
        r'class(?:="|\s*=\s*")((?:[^"{]|\{\{.*?\}\}|\{%.*?%\}|\{(?![{%]))*)"', text
    ):
        plain = re.sub(r"\{%.*?%\}", " ", value)
        for quoted in re.findall(r"\{\{.*?\}\}", plain):
            found |= set(re.findall(r"'\s*([a-z][\w -]*)'", quoted) if "'" in quoted else [])
        found |= set(re.sub(r"\{\{.*?\}\}", " ", plain).split())
    return {
        word
        for item in found
        for word in item.split()
        if re.fullmatch(r"[a-z][\w-]*[a-z0-9]", word) and not word.endswith("-")
    }


def known(name: str) -> bool:
    return name in HOOKS or re.search(rf"\.{re.escape(name)}(?![\w\\-])", CSS) is not None


def test_every_class_of_the_templates_is_in_the_built_css():
    missing = {}
    for template in TEMPLATES:
        unknown = {
            name for name in classes_in(template.read_text(encoding="utf-8")) if not known(name)
        }
        unknown -= DATA_WORDS
        if unknown:
            missing[template.name] = unknown
    assert missing == {}, "run make assets"


def test_the_test_above_notices_a_class_that_is_not_built():
    assert classes_in('<p class="soft nosuchclass">') == {"soft", "nosuchclass"}
    assert not known("nosuchclass")


def luminance(colour: str) -> float:
    """Relative luminance of WCAG 2.2."""
    colour = colour if len(colour) == 6 else "".join(c * 2 for c in colour)
    parts = [int(colour[i : i + 2], 16) / 255 for i in (0, 2, 4)]
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def theme(block: str) -> dict[str, str]:
    return dict(re.findall(r"--color-([\w-]+):#([0-9a-fA-F]{3,6})\b", block))


CELLAR = theme(re.search(r'\[data-theme="?cellar"?\]\{([^}]*)\}', CSS).group(1))
PAPER = theme(re.search(r":root[^{]*\{([^}]*)\}", CSS).group(1))


@pytest.mark.parametrize("colours", [PAPER, CELLAR])
@pytest.mark.parametrize("text", ["ink", "ink-soft", "copper", "petrol", "ochre", "red"])
@pytest.mark.parametrize("ground", ["paper", "sheet"])
def test_text_contrast_is_at_least_4_5(colours, text, ground):
    light, dark = sorted((luminance(colours[text]), luminance(colours[ground])), reverse=True)
    assert (light + 0.05) / (dark + 0.05) >= 4.5


def test_templates_fetch_nothing_from_outside():
    for template in TEMPLATES:
        assert not re.search(
            r'(?:src|href|action)="(?:https?:)?//', template.read_text(encoding="utf-8")
        )
    assert not re.search(r"url\(\s*[\"']?(?:https?:)?//", CSS)
