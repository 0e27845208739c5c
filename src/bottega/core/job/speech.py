"""What people say, as words that can be compared: stems, plain synonyms, small misspellings, and
where a phrase of the library stands in a sentence."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from html import unescape
from itertools import groupby

import snowballstemmer
from rapidfuzz.distance import OSA

from bottega.core.job.clause import (
    AND,
    BRINGS,
    BUT,
    COMMA,
    DONE,
    ENDS,
    FAILS,
    MARKS,
    NO,
    NOT,
    ONCE,
    PARTLY,
    POINTERS,
    SUBJECT,
    TROUBLE,
    UNREAL,
    WELL,
    WHEN,
    Clause,
    Sentence,
    Word,
)
from bottega.core.library.tables import SpeechTable

SPAN = 9
"""Other words that may stand among those of a phrase; chosen, a clause is hardly longer."""
ONE_WRONG, TWO_WRONG = 5, 8
"""From how many letters on one, and two, may be wrong; chosen, shorter words become others too
easily."""
UNREAD = ""
"""Stands for a word nobody has looked for among the misspellings."""
MOST_READ = 4000
"""Words whose misspellings are remembered; chosen, a year of complaints."""
ARTICLES = {"a", "an", "the", "it", "is", "of"}
"""Words of a phrase nobody has to say."""
JOINS = {WHEN, AND, SUBJECT, COMMA}
"""Of a phrase, words that only join the others."""
_TAG = re.compile(r"<(?:style|script)\b.*?</(?:style|script)>|<[^<>]*>", re.DOTALL | re.IGNORECASE)
_TOKEN = re.compile(r"[^\W\d_]+(?:'[^\W\d_]+)*|[.!?;:\n,]")


@dataclass(frozen=True)
class Match:
    """Where a phrase stands in a sentence: the places of its words, in order."""

    places: tuple[int, ...]
    denied: bool


Phrase = tuple[tuple[str, ...], ...]
"""The words of a phrase by what they mean; in parts where it has a *but*."""


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
        marked = {
            NOT: table.not_,
            NO: table.no,
            BUT: table.but,
            WELL: table.well,
            WHEN: table.when,
            AND: table.and_,
            SUBJECT: table.subject,
            BRINGS: table.brings,
            FAILS: table.fails,
            UNREAL: table.should,
            PARTLY: [word for word in table.partly if " " not in word],
            TROUBLE: table.trouble,
            DONE: table.done,
        }
        self._marks = {word: mark for mark, words in marked.items() for word in words}
        self._same = {
            stem(member): stem(first)
            for first, members in table.same.items()
            for member in members
            if " " not in member
        }
        self._long = {
            tuple(stem(word) for word in member.split()): first
            for first, members in {**table.same, ONCE: table.once, PARTLY: table.partly}.items()
            for member in members
            if " " in member
        }
        self._longest = max((len(words) for words in self._long), default=1)
        self._ends = {stem(word) for word in table.ends}
        self._works = self._taken(stem("works"))
        self._functions = frozenset(self._taken(stem(word)) for word in table.functions)
        self._apart = set(table.apart) | set(table.little)
        self._read: dict[str, str | None] = {}
        words = [*known, *table.same, *(m for members in table.same.values() for m in members)]
        self._known = sorted({w for w in words if len(w) >= ONE_WRONG - 1 and w.isalpha()})
        self._stems = {stem(word) for word in self._known}

    def sentences(self, text: str) -> list[Sentence]:
        """Return the sentences of a text; those in which nobody speaks are left out."""
        found: list[list[str]] = [[]]
        for token in _TOKEN.findall(plain(text).lower()):
            if token in ".!?;:\n":
                found.append([])
            else:
                found[-1].append(token)
        return [
            Sentence(self._words(tokens), self._works, self._functions)
            for tokens in found
            if tokens
        ]

    def phrase(self, words: str) -> Phrase:
        """Return a phrase of the library as what its words mean."""
        spoken = [token for token in _TOKEN.findall(words.lower()) if token not in ARTICLES]
        parts: list[list[str]] = [[]]
        for word in self._words(spoken):
            if word.means == BUT:
                parts.append([])
            elif word.means not in JOINS:
                parts[-1].append(word.means)
        return tuple(tuple(part) for part in parts if part)

    def little(self, word: Word) -> bool:
        """Return whether a word carries nothing by itself."""
        return word.little

    def _words(self, tokens: Sequence[str]) -> tuple[Word, ...]:
        """Return the words of these tokens, those of a saying as one."""
        found, place = [], 0
        while place < len(tokens):
            length, means = self._saying(tokens, place)
            if length:
                found.append(Word(" ".join(tokens[place : place + length]), means))
            else:
                length = 1
                found.append(self._word(tokens[place]))
            if self._is_within(tokens, place):
                found[-1] = replace(found[-1], within=True)
            place += length
        return tuple(found)

    def _is_within(self, tokens: Sequence[str], place: int) -> bool:
        """Return whether a word stands behind *in the*, *of my*."""
        before = place - 1
        while before >= 0 and tokens[before] in POINTERS:
            before -= 1
        pointed = before < place - 1
        return (
            before >= 0
            and tokens[before] in self._table.within
            and (
                pointed or tokens[before] != "of"  # a bit of water is water
            )
        )

    def _saying(self, tokens: Sequence[str], place: int) -> tuple[int, str]:
        for length in range(min(self._longest, len(tokens) - place), 1, -1):
            words = tuple(self._in_saying(token) for token in tokens[place : place + length])
            if words in self._long:
                first = self._long[words]
                return length, first if first in MARKS else self._mark_or_stem(first)
        return 0, ""

    def _in_saying(self, token: str) -> str:
        """Return a word as the sayings of the table spell it: every denial is *not*."""
        bare = token.replace("'", "")
        return "not" if token.endswith("n't") or self._marks.get(bare) == NOT else stem(bare)

    def _mark_or_stem(self, word: str) -> str:
        if word in self._marks:
            return self._marks[word]
        return self._taken(stem(word))

    def _word(self, token: str) -> Word:
        means = self._means(token)
        little = means in MARKS or token.replace("'", "") in self._table.little
        return Word(token, means, little)

    def _means(self, token: str) -> str:
        if token == ",":
            return COMMA
        bare = token.replace("'", "")
        if bare in self._marks:
            return self._marks[bare]
        if token.endswith("n't"):
            return NOT
        if "'" in token and self._marks.get(token.split("'")[0]) == SUBJECT:
            return SUBJECT
        own = stem(bare.removesuffix("s") if token.endswith("'s") else bare)
        if own not in self._stems and bare not in self._apart:
            near = self._misspelt(bare)
            own = stem(near) if near else own
        return self._taken(own)

    def _taken(self, own: str) -> str:
        means = self._same.get(own, own)
        return ENDS if means in self._ends else means

    def _misspelt(self, word: str) -> str | None:
        """Return the word of the library this one is most likely a misspelling of."""
        known = self._read.get(word, UNREAD)
        if known is not UNREAD:
            return known
        if len(self._read) >= MOST_READ:
            self._read.clear()
        near = self._read[word] = self._nearest(word)
        return near

    def _nearest(self, word: str) -> str | None:
        if len(word) < ONE_WRONG - 1:
            return None
        best, least = None, TWO_WRONG
        for known in self._known:
            if known[0] != word[0] or abs(len(known) - len(word)) > 2:
                continue
            if _single(known) == _single(word):
                return known  # a letter doubled, or not
            allowed = 2 if len(known) >= TWO_WRONG else 1
            if min(len(known), len(word)) < ONE_WRONG and sorted(known) != sorted(word):
                continue
            distance = OSA.distance(known, word, score_cutoff=allowed)
            if distance <= allowed and distance < least:
                best, least = known, distance
        return best


@lru_cache(maxsize=8192)
def _single(word: str) -> str:
    """Return a word with every doubled letter written once."""
    return "".join(letter for letter, _ in groupby(word))


def find(phrase: Phrase, sentence: Sentence) -> Match | None:
    """Return where a phrase stands in a sentence, its words in any order and within one reach, or
    None. One that is denied there counts as denied, unless it denies something itself."""
    if len(phrase) != 1:
        return _in_parts(phrase, sentence) if phrase else None
    words = phrase[0]
    wanted = [means for means in words if means not in (NOT, NO)]
    if not wanted:
        return None
    denies = next((means for means in words if means in (NOT, NO)), None)
    best: Match | None = None
    for places in _found(wanted, sentence):
        if any(sentence.only_ends(place, places) for place in places):
            continue
        if sentence.only_onset(places):
            continue
        by = [sentence.denied[place] for place in places]
        outside = [one for one in by if one is not None and one not in places]
        if denies is not None:
            if denial := [one for one in outside if _denies(sentence, one, denies)]:
                return Match(tuple(sorted({denial[0], *places})), False)
            continue
        by = [sentence.denied[place] for place in _asserted(wanted, places, sentence)]
        outside = [one for one in by if one is not None and one not in places]
        if not outside:
            return Match(places, False)
        best = best or Match(tuple(sorted({outside[0], *places})), True)
    return best


def _asserted(wanted: list[str], places: Sequence[int], sentence: Sentence) -> list[int]:
    """Return the places of a phrase that a denial bears on: of a noise not the function in which
    the noise is heard."""
    heard_in = sentence.functions - {wanted[0]}
    return [place for place in places if sentence.words[place].means not in heard_in]


def _first(wanted: list[str], places: Sequence[int], sentence: Sentence) -> int:
    """Return the place of a phrase's first word."""
    return next(place for place in places if sentence.words[place].means == wanted[0])


def _denies(sentence: Sentence, place: int, denies: str) -> bool:
    """Return whether a denial is of the kind a phrase asks for: a thing missing, or a verb."""
    missing = sentence.words[place].means == NO
    return missing == (denies == NO) or sentence.words[place].text == "nothing"


def _in_parts(phrase: Phrase, sentence: Sentence) -> Match | None:
    """Return where every part of a phrase with a *but* stands, each in a clause of its own."""
    places: set[int] = set()
    for part in phrase:
        own = [n for n, word in enumerate(sentence.words) if word.means == part[0]]
        bare = part[0] in (NOT, NO) and len(part) == 1
        match = Match(tuple(own[:1]), False) if bare and own else find((part,), sentence)
        if match is None or match.denied or (bare and not own):
            return None
        places |= set(match.places)
    return Match(tuple(sorted(places)), False)


def goes_well(phrase: Phrase, sentence: Sentence) -> Match | None:
    """Return where a sentence says that what a denying phrase denies goes well: with praise, or as
    a plain statement of its own; or None."""
    if len(phrase) != 1 or phrase[0][0] != NOT:
        return None
    words = phrase[0]
    if MARKS & set(words[1:]) or not sentence.functions & set(words[1:]):
        return None
    for places in _found(list(words[1:]), sentence):
        own = {sentence.clause_of(place) for place in places}
        real = not set(places) & sentence.unreal and not any(one.says_when for one in own)
        if real and all(sentence.denied[place] is None for place in places):
            praise = next((p for one in own if (p := sentence.praised(one)) is not None), None)
            if praise is not None:
                return Match((*places, praise), False)
            if len(own) == 1 and _is_bare(sentence, own.pop(), places):
                return Match(places, False)
    return None


def _is_bare(sentence: Sentence, clause: Clause, places: Sequence[int]) -> bool:
    """Return whether a clause says nothing but these words: it drains."""
    others = [sentence.words[place] for place in clause if place not in places]
    said = sentence.words[places[0]]
    stated = said.inflected and not sentence.depends(clause)
    return stated and all(word.means in (SUBJECT, AND) or word.little for word in others)


def _found(wanted: list[str], sentence: Sentence) -> Iterable[tuple[int, ...]]:
    """Yield the places of all the words wanted, wherever they stand in one reach."""
    for reach in sentence.reaches:
        places = [place for place in reach if place not in sentence.once]
        for nth, place in enumerate(places):
            if sentence.words[place].means not in wanted:
                continue
            left, own = list(wanted), []
            for other in places[nth : nth + len(wanted) + SPAN]:
                if sentence.words[other].means in left:
                    left.remove(sentence.words[other].means)
                    own.append(other)
            if not left and not sentence.words[_first(wanted, own, sentence)].within:
                yield tuple(own)
