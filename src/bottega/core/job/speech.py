"""What people say, as words that can be compared: stems, plain synonyms, small misspellings, and
what is denied or said to go well."""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from html import unescape

import snowballstemmer
from rapidfuzz.distance import OSA

from bottega.core.library.tables import SpeechTable

NOT, NO, WELL, BUT, COMMA = "<not>", "<no>", "<well>", "<but>", "<,>"
"""What small words stand for: a verb denied, a thing missing, done well, the end of what a denial
speaks of."""
MARKS = {NOT, NO, WELL, BUT, COMMA}
SPAN = 3
"""Other words that may stand among those of a phrase; chosen, "the water just stays there in the
drum"."""
NEAR = 4
"""Words a denial reaches over; chosen, "not make a single noise"."""
ONE_WRONG, TWO_WRONG = 5, 8
"""From how many letters on one, and two, may be wrong; chosen, shorter words become others too
easily."""
ARTICLES = {"a", "an", "the", "it", "is", "of"}
"""Words of a phrase nobody has to say."""
_TAG = re.compile(r"<(?:style|script)\b.*?</(?:style|script)>|<[^<>]*>", re.DOTALL | re.IGNORECASE)
_TOKEN = re.compile(r"[^\W\d_]+(?:'[^\W\d_]+)*|[.!?;:\n,]")


@dataclass(frozen=True)
class Word:
    """A word as typed, and what it is taken for: a stem, or one of the marks."""

    text: str
    means: str


@dataclass(frozen=True)
class Match:
    """Where a phrase stands in a sentence: the places of its words, in order."""

    places: tuple[int, ...]
    denied: bool


@lru_cache(maxsize=8192)
def stem(word: str) -> str:
    """Return the stem of a word in small letters. Each word gets a stemmer of its own, since one at
    work on two words, in two threads, mixes them up."""
    return str(snowballstemmer.stemmer("english").stemWord(word))


def plain(text: str) -> str:
    """Return what a person typed without the markup of a mail and with plain apostrophes."""
    spaced = _TAG.sub(" ", text) if "<" in text else text
    return unescape(spaced).replace("’", "'").replace("`", "'")


class Listener:
    """Takes words for what they mean. ``known`` are the words the phrases of a machine use."""

    def __init__(self, table: SpeechTable, known: Iterable[str]) -> None:
        self._table = table
        self._marks = dict.fromkeys(table.not_, NOT)
        self._marks |= dict.fromkeys(table.no, NO) | dict.fromkeys(table.but, BUT)
        self._marks |= dict.fromkeys(table.well, WELL)
        self._same = {
            stem(member): stem(first)
            for first, members in table.same.items()
            for member in members
            if " " not in member
        }
        self._apart = set(table.apart) | set(table.little)
        self._read: dict[str, str | None] = {}
        words = [*known, *table.same, *(m for members in table.same.values() for m in members)]
        self._known = sorted({w for w in words if len(w) >= ONE_WRONG - 1 and w.isalpha()})
        self._stems = {stem(word) for word in self._known}

    def sentences(self, text: str) -> list[list[Word]]:
        """Return the words of each sentence."""
        found: list[list[Word]] = [[]]
        for token in _TOKEN.findall(plain(text).lower()):
            if token in ".!?;:\n":
                found.append([])
            else:
                found[-1].append(Word(token, self._means(token)))
        return [words for words in found if words]

    def phrase(self, words: str) -> tuple[str, ...]:
        """Return a phrase of the library as what its words mean."""
        spoken = [token for token in _TOKEN.findall(words.lower()) if token not in ARTICLES]
        return tuple(self._means(token) for token in spoken)

    def little(self, word: Word) -> bool:
        """Return whether a word carries nothing by itself."""
        return word.means in MARKS or word.text.replace("'", "") in self._table.little

    def _means(self, token: str) -> str:
        if token == ",":
            return COMMA
        bare = token.replace("'", "")
        if bare in self._marks:
            return self._marks[bare]
        if token.endswith("n't"):
            return NOT
        own = stem(bare.removesuffix("s") if token.endswith("'s") else bare)
        if own not in self._stems and bare not in self._apart:
            near = self._misspelt(bare)
            own = stem(near) if near else own
        return self._same.get(own, own)

    def _misspelt(self, word: str) -> str | None:
        """Return the word of the library this one is most likely a misspelling of."""
        if word not in self._read:
            self._read[word] = self._nearest(word)
        return self._read[word]

    def _nearest(self, word: str) -> str | None:
        if len(word) < ONE_WRONG - 1:
            return None
        best, least = None, TWO_WRONG
        for known in self._known:
            if known[0] != word[0] or abs(len(known) - len(word)) > 2:
                continue
            allowed = 2 if len(known) >= TWO_WRONG else 1
            if min(len(known), len(word)) < ONE_WRONG and sorted(known) != sorted(word):
                continue
            distance = OSA.distance(known, word, score_cutoff=allowed)
            if distance <= allowed and distance < least:
                best, least = known, distance
        return best


def find(phrase: tuple[str, ...], words: list[Word]) -> Match | None:
    """Return where a phrase stands in a sentence, its words in any order and near each other, or
    None. One that is denied there counts as denied, unless it denies something itself."""
    wanted = [means for means in phrase if means not in (NOT, NO)]
    if not wanted:
        return None
    denies = next((means for means in phrase if means in (NOT, NO)), None)
    best: Match | None = None
    for start, word in enumerate(words):
        if word.means not in wanted:
            continue
        places = _around(wanted, words, start)
        if places is None:
            continue
        if denies is not None:
            by = [_denied_at(words, place, denies) for place in places]
            denying = next((place for place in by if place is not None), None)
            if denying is not None:
                return Match(tuple(sorted({denying, *places})), False)
            continue
        denying = _denied_at(words, places[0], None)
        if denying is None:
            return Match(places, False)
        best = best or Match((denying, *places), True)
    return best


def goes_well(phrase: tuple[str, ...], words: list[Word]) -> Match | None:
    """Return where a sentence says that what a denying phrase denies goes well, or None."""
    if not phrase or phrase[0] != NOT:
        return None
    wanted = list(phrase[1:])
    for start, word in enumerate(words):
        if word.means not in wanted:
            continue
        places = _around(wanted, words, start)
        if places is None or _denied_at(words, places[0], NOT) is not None:
            continue
        for after in range(places[-1] + 1, len(words)):
            if words[after].means == WELL and words[after - 1].means not in (NOT, NO):
                return Match((*places, after), False)
            if words[after].means in (NOT, NO) or words[after].text == "but":
                break
    return None


def _around(wanted: list[str], words: list[Word], start: int) -> tuple[int, ...] | None:
    """Return the places of all the words wanted, from ``start`` on and not too far apart."""
    end = min(len(words), start + len(wanted) + SPAN)
    left, places = list(wanted), []
    for place in range(start, end):
        if words[place].means in left:
            left.remove(words[place].means)
            places.append(place)
    return tuple(places) if not left else None


def _denied_at(words: list[Word], place: int, by: str | None) -> int | None:
    """Return the place of the word that denies what stands at ``place``, or None."""
    for before in range(place - 1, max(-1, place - 1 - NEAR), -1):
        means = words[before].means
        if means in (BUT, COMMA):
            return None
        if means == NO and by in (NO, None) and place - before <= 2:
            return before
        if means == NOT and by in (NOT, None):
            return before
    return None
