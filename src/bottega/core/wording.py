"""Words as they are put together: a capital first or none, and a sentence with its full stop. The
rest of a text stays as it is: NTC, FB and V are no mistakes."""


def upper_first(text: str) -> str:
    """Return a text with a capital first."""
    return text[:1].upper() + text[1:]


def lower_first(text: str) -> str:
    """Return a title as said inside a sentence."""
    return text[:1].lower() + text[1:]


def sentence(said: object) -> str:
    """Return words, or what an error says, as a sentence: a capital first, a full stop."""
    return f"{upper_first(str(said))}."
