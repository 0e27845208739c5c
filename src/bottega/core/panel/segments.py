"""What a display made of seven or fourteen bars can show, and what looks alike on it.

Bars are named as is usual: a on top, then clockwise b to f, g in the middle; of fourteen the middle
is parted in g and h, with i, j, k from the upper left to the upper right and l, m, n below.
"""

SEVEN = {
    "0": "abcdef", "1": "bc", "2": "abdeg", "3": "abcdg", "4": "bcfg", "5": "acdfg",
    "6": "acdefg", "7": "abc", "8": "abcdefg", "9": "abcdfg", "a": "abcefg", "b": "cdefg",
    "c": "deg", "d": "bcdeg", "e": "adefg", "f": "aefg", "g": "acdef", "h": "cefg", "i": "c",
    "j": "bcd", "l": "def", "n": "ceg", "o": "cdeg", "p": "abefg", "q": "abcfg", "r": "eg",
    "s": "acdfg", "t": "defg", "u": "cde", "y": "bcdfg", "-": "g", "_": "d",
}  # fmt: skip
FOURTEEN = {
    "0": "abcdef", "1": "bc", "2": "abdegh", "3": "abcdh", "4": "bcfgh", "5": "acdfgh",
    "6": "acdefgh", "7": "abc", "8": "abcdefgh", "9": "abcdfgh", "a": "abcefgh", "b": "abcdhjm",
    "c": "adef", "d": "abcdjm", "e": "adefgh", "f": "aefg", "g": "acdefh", "h": "bcefgh",
    "i": "adjm", "j": "bcde", "k": "efgkn", "l": "def", "m": "bcefik", "n": "bcefin",
    "o": "abcdef", "p": "abefgh", "q": "abcdefn", "r": "abefghn", "s": "acdfgh", "t": "ajm",
    "u": "bcdef", "v": "efkl", "w": "bcefln", "x": "ikln", "y": "ikm", "z": "adkl", "-": "gh",
    "_": "d",
}  # fmt: skip
GLYPHS = {7: SEVEN, 14: FOURTEEN}


def glyph(segments: int, character: str) -> str | None:
    """Return the bars that make a character, in alphabetical order; the character itself on a
    display that shows any, None for one these bars cannot make. Capitals do not matter."""
    wanted = character.lower()
    return GLYPHS[segments].get(wanted) if segments in GLYPHS else wanted


def unformed(segments: int, text: str) -> str:
    """Return the characters of a text that such a display cannot form."""
    return "".join(c for c in text if glyph(segments, c) is None)


def strays(segments: int, a: str, b: str) -> int:
    """Return how many bars lie between two characters; nought where they look alike. On a display
    that shows any character two different ones are two apart."""
    one, other = glyph(segments, a), glyph(segments, b)
    if one == other:
        return 0
    if segments not in GLYPHS or one is None or other is None:
        return 2
    return len(set(one) ^ set(other))
