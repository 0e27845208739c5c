"""What is written in capitals stays so."""

from bottega.core.wording import lower_first, sentence, upper_first


def test_only_the_first_letter_changes():
    assert upper_first("iPump of FB") == "IPump of FB"
    assert lower_first("The NTC") == "the NTC"
    assert sentence(ValueError("found 'x', expected one of FB, FD")) == (
        "Found 'x', expected one of FB, FD."
    )
    assert upper_first("") == lower_first("") == ""
