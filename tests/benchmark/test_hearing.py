"""Sentences of customers, held against what is heard."""

import pytest

from bottega.app.errors import BadValue
from bottega.benchmark.hearing import (
    SENTENCES,
    SaidSentence,
    bench_hearing,
    listen,
    read_sentences,
    vocabulary,
)


def test_of_the_sentences_that_come_along_nine_in_ten_meanings_are_heard_and_hardly_one_turned():
    sentences = read_sentences(SENTENCES)
    bench = bench_hearing(sentences)
    assert len(sentences) >= 300
    assert bench.heard >= 0.9
    assert bench.opposite <= len(sentences) / 100


def test_what_is_heard_the_wrong_way_round_is_counted_as_the_opposite():
    denied = SaidSentence.model_validate(
        {"say": "It drains well, it does not spin.", "means": ["says_water_stays"]}
    )
    heard = listen(denied)
    assert heard.opposite == ["well says_water_stays"]
    assert heard.missed == ["says_water_stays"]
    assert heard.more == ["says_no_spin"]


def test_how_often_is_a_meaning():
    sentence = SaidSentence(
        say="Now and then it trips.", means=["says_trips", "often now and then"]
    )
    assert listen(sentence).missed == []


def test_the_vocabulary_is_what_a_kind_of_machine_can_be_heard_to_have():
    assert vocabulary("TG")["says_runs_on"] == "The basket runs on after the lid is opened"
    assert "says_runs_on" not in vocabulary("FB")


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("a: [", "no sentences"),
        ("- {say: hello}", "no sentences"),
        ("- {say: hello, means: [says_hello]}", "expected one that --vocabulary prints"),
        ("- {say: hello, kind: XX, means: []}", "Found the kind 'XX'"),
    ],
)
def test_a_file_that_cannot_be_played_says_why(tmp_path, text, told):
    path = tmp_path / "said.yaml"
    path.write_text(text)
    with pytest.raises(BadValue, match=told):
        read_sentences(path)
