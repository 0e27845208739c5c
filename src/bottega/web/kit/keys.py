"""The keys of every page, in one place: what the help sheet lists, and what the browser's script
listens to."""

KEYS: tuple[tuple[tuple[str, ...], str], ...] = (
    (("1 … 9",), "the outcome of that number"),
    (("N",), "the next sheet"),
    (("M",), "to the reading; a figure typed begins it"),
    (("K",), "keep the reading, or do the first thing asked for"),
    (("Ctrl Enter",), "the same while typing in a field"),
    (("F", "J", "L"), "a flash of that lamp, or a tone, tapped and held along with the panel"),
    (("R",), "another round of it"),
    (("T",), "take the likeliest code that was heard or seen"),
    (("B",), "the next step of the way into the service mode, with its beat"),
    (("W",), "withdraw the last entry"),
    (("S",), "the state of the machine"),
    (("C",), "take a call"),
    (("/",), "search"),
    (("G", "1 … 9, 0"), "that station, 0 for the tenth"),
    (("?",), "this list"),
)
"""Each row: what is pressed one after the other, and what it does."""
