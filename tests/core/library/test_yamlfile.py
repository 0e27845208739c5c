"""Reading YAML from outside: what is too deep, too long or hides something is refused with its
line, before anything recurses over it."""

import pytest
from ruamel.yaml import YAML

from bottega.core.library import yamlfile
from bottega.core.library.errors import LibraryError
from bottega.core.library.yamlfile import documents, parse_yaml


def refused(text):
    with pytest.raises(LibraryError) as caught:
        parse_yaml(text.encode("utf-8", "surrogatepass"), "s.yaml")
    return caught.value.problems[0]


DEEP = {
    "brackets": "a: " + "[" * 30_000,
    "dashes": "- " * 30_000,
    "braces": "{a: " * 5000,
    "keys": "? " * 20_000,
    "lines": "[\n" * 8000,
    "hidden by comments": "[ # ]\n" * 15_000,
    "hidden by words": '["]]]]",\n' * 9000,
}


@pytest.mark.parametrize("name", DEEP)
def test_depth_is_refused_before_anything_recurses(name, monkeypatch):
    def compose(*_given):
        raise AssertionError("it was composed")

    monkeypatch.setattr(YAML, "compose", compose)
    assert "nest" in refused(DEEP[name]).found


def test_twenty_one_levels_are_too_many_and_their_line_is_said():
    text = "a:\n" + "".join(f"{'  ' * n}b:\n" for n in range(1, 25))
    problem = refused(text)
    assert problem.line == 21
    assert "20" in problem.found


@pytest.mark.parametrize(
    ("text", "line"),
    [
        ("a: 1\nb: &x [1]\n", 2),
        ("a: 1\nb: 2\nc: !!python/name:os.system x\n", 3),
        ("a: 1\na: 2\n", 2),
        ("a: 1\nb: [1, 2\n", 0),
        ("", 0),
    ],
    ids=["anchor", "tag", "twice", "open", "empty"],
)
def test_what_hides_something_is_refused_with_its_line(text, line):
    problem = refused(text)
    assert problem.file == "s.yaml"
    assert problem.line >= line


def test_a_text_of_two_million_marks_is_refused_before_it_is_parsed(monkeypatch):
    monkeypatch.setattr(yamlfile, "YAML", None)
    assert str(yamlfile.MAX_MARKS) in refused("a:\n" + "- b\n" * 60_000).expected
    assert str(yamlfile.MAX_BYTES) in refused("a: " + "x" * 2_000_001).expected


def test_bytes_that_are_no_text_are_refused():
    with pytest.raises(LibraryError, match="UTF-8"):
        parse_yaml(b"a: \xff\xfe", "s.yaml")


def test_a_stream_is_taken_apart_where_the_parser_says():
    text = b"a: 1\n---\nb: |\n  not\n  --- a start\nc: 3\n--- # the third\nd: 4\n"
    parts = [parse_yaml(part.encode(), "s.yaml").data for part in documents(text, "s.yaml")]
    assert parts == [{"a": 1}, {"b": "not\n--- a start\n", "c": 3}, {"d": 4}]


@pytest.mark.parametrize(
    ("raw", "found"),
    [
        (b"a: &x 1\nb: *x", "anchor"),
        (b"a: !!python/object:os.system x", "tag"),
        (b"a: 1\na: 2", "twice"),
        (b"a: [1, 2", "expected"),
        (b"\xff\xfe", "byte"),
        (b"", "empty"),
        (b"[" * 3000, "found"),
        (b"x" * 2_100_000, "bytes"),
    ],
)
def test_hostile_yaml_is_refused(raw, found):
    with pytest.raises(LibraryError, match=found):
        parse_yaml(raw, "t.yaml")


def test_windows_line_ends_words_and_other_alphabets_are_read_as_written():
    source = parse_yaml("a: off\r\nb: насос\r\nc: {d: true}\r\n".encode(), "t.yaml")
    assert source.data == {"a": "off", "b": "насос", "c": {"d": True}}
    assert source.line_of(("c", "d")) == 3
