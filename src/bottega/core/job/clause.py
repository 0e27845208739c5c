"""A sentence cut into clauses: what a denial reaches, what only says when, and what is not so but
should be, or used to be."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

NOT, NO, WELL, BUT, COMMA = "<not>", "<no>", "<well>", "<but>", "<,>"
"""What small words stand for: a verb denied, a thing missing, done well, the end of a clause."""
AND, WHEN, SUBJECT, BRINGS = "<and>", "<when>", "<subject>", "<brings>"
"""The same: what joins two verbs, what only says when, who a clause is about, and who brings
somebody else to act."""
ENDS, FAILS, ONCE, UNREAL = "<ends>", "<fails>", "<once>", "<unreal>"
"""The same: an act that ends, what makes a thing fail, what was so once, and what should be so."""
PARTLY, TROUBLE, DONE = "<partly>", "<trouble>", "<done>"
"""The same: what is denied in part only, what nobody wants to have, and what was done to a part."""
MARKS = {NOT, NO, WELL, BUT, COMMA, AND, WHEN, SUBJECT, BRINGS}
MARKS |= {FAILS, ONCE, UNREAL, PARTLY, TROUBLE, DONE}
"""Those that carry nothing by themselves; what ends an act is an act of its own."""
POINTERS = {"the", "a", "an", "my", "our", "its", "this", "that", "each", "every"}
"""Words that stand before a thing."""
EQUALS = {"isn't", "isnt", "wasn't", "wasnt", "aren't", "arent"}
"""Denials at the end of a clause that leave open what is denied: the spin isn't."""
DOES = {"does", "do", "did", "will"}
"""What takes a denial back at the end of the clause behind it."""
IS = {"is", "was", "are", "were", "seems", "it's", "completely", "totally"}
"""What stands between a thing and how it fails."""
ONSET = {"after", "before", "since"}
"""Words behind which stands when it began, and no complaint."""
CIRCUMSTANCES = {"on", "in", "at", "with", "for", "from", "the"}
"""Words behind a denial that denies a circumstance, or names the culprit: not on draining, it is
not the heating."""
NOTHING = "nothing"
"""Denies what follows, and is a word of its own."""
NO_REACHES = 2
"""Words a missing thing may stand behind its *no*; chosen, "no hot water"."""


@dataclass(frozen=True)
class Word:
    """A word as typed, what it is taken for (a stem, or one of the marks), and whether it carries
    nothing by itself."""

    text: str
    means: str
    little: bool = False
    within: bool = False
    """Whether it says where something is, behind *in* or *of*."""

    @property
    def acting(self) -> bool:
        """Return whether it is the form of a verb that goes on: filling."""
        return self.text.endswith("ing")

    @property
    def inflected(self) -> bool:
        """Return whether it is a verb with a subject of its own: hums, stopped."""
        return self.text.endswith(("s", "ed", "ing"))


@dataclass(frozen=True)
class Clause:
    """A part of a sentence with a verb of its own: the places from ``start`` up to ``end``, and
    whether it only says when something else is so."""

    start: int
    end: int
    says_when: bool
    opened_by: str = ""
    """The word that opened it, as typed."""

    def __iter__(self) -> Iterator[int]:
        return iter(range(self.start, self.end))


@dataclass(frozen=True)
class Sentence:
    """The words of a sentence, as typed."""

    words: tuple[Word, ...]
    works: str
    """What *works* is taken for, and *happens*."""
    functions: frozenset[str] = frozenset()
    """What the things a machine does are taken for."""

    def __len__(self) -> int:
        return len(self.words)

    @cached_property
    def clauses(self) -> tuple[Clause, ...]:
        """Return the clauses in order; what ends one belongs to none."""
        found, start, says_when, opened_by = list[Clause](), 0, False, ""
        for place, word in enumerate(self.words):
            own = word.means == SUBJECT and says_when and self._says_much(start, place)
            if word.means not in (COMMA, BUT, WHEN) and not own:
                continue
            if place > start:
                found.append(Clause(start, place, says_when, opened_by))
            start, says_when, opened_by = place + (not own), word.means == WHEN, word.text
        if len(self.words) > start:
            found.append(Clause(start, len(self.words), says_when, opened_by))
        return tuple(found)

    def _says_much(self, start: int, end: int) -> bool:
        """Return whether what stands there is enough for a clause that only says when."""
        return any(not word.little for word in self.words[start:end])

    @cached_property
    def reaches(self) -> tuple[tuple[int, ...], ...]:
        """Return the stretches in which the words of one phrase may stand: a clause with what says
        when it is so, and with what follows and has no verb of its own."""
        stretches: list[list[int]] = []
        for nth, clause in enumerate(self.clauses):
            before = self.clauses[nth - 1] if nth else None
            joins = before is not None and (
                clause.says_when or before.says_when or not self._says_something(clause)
            )
            if joins:
                stretches[-1] += list(clause)
            else:
                stretches.append(list(clause))
        return tuple(tuple(one) for one in stretches)

    def _says_something(self, clause: Clause) -> bool:
        """Return whether a clause has a subject, a denial, or a verb that shows its person."""
        words = [self.words[place] for place in clause]
        return any(
            word.means in (SUBJECT, NOT, NO, FAILS) or (word.inflected and not word.little)
            for word in words
        )

    @cached_property
    def denied(self) -> tuple[int | None, ...]:
        """Return for every place that of the word which denies it, or None."""
        by: list[int | None] = [None] * len(self.words)
        for clause in self.clauses:
            self._deny_forward(clause, by)
            self._deny_backward(clause, by)
        self._deny_by_no(by)
        return tuple(by)

    def _deny_forward(self, clause: Clause, by: list[int | None]) -> None:
        """Deny what follows a denial, up to what takes the clause elsewhere."""
        denier: int | None = None
        since = clause.start
        for place in clause:
            word, before = self.words[place], denier
            if word.means == NOT or word.text == NOTHING:
                denier, since = None if self._in_part(place, clause) else place, place
            elif word.means == TROUBLE and denier is not None:
                by[place], denier = denier, None
            elif self._turns_elsewhere(place, since, clause):
                denier = None
            elif word.means == ENDS and self._ends_an_act(place, clause):
                # Who does not stop filling fills; who stops filling does not.
                by[place], denier, since = before, place if before is None else None, place
            if denier is not None and place != denier:
                by[place] = denier

    def _turns_elsewhere(self, place: int, since: int, clause: Clause) -> bool:
        """Return whether a word begins what a denial ``since`` some place does not reach: a new
        subject, or a second verb with a form of its own."""
        means = self.words[place].means
        if means == SUBJECT:
            between = self.words[since + 1 : place]
            return not self._brought(place, clause) and any(not one.little for one in between)
        return means == AND and self._own_verb_follows(place, clause)

    def _in_part(self, place: int, clause: Clause) -> bool:
        """Return whether a denial reaches a part only: not at once, not a lot; not here, only
        there; not with this, with that it does."""
        if any(self.words[n].means == PARTLY for n in range(place + 1, clause.end)):
            return True
        behind = self.words[place + 1].text if place + 1 < clause.end else ""
        if behind in CIRCUMSTANCES and self.words[place].text.endswith(("not", "n't")):
            return True
        nth = self.clauses.index(clause) + 1
        if nth == len(self.clauses):
            return False
        following = self.clauses[nth]
        return following.opened_by == "only" or self.words[following.end - 1].text in DOES

    def _brought(self, place: int, clause: Clause) -> bool:
        """Return whether a pronoun is what somebody brings to act: get *it* to drain."""
        return place > clause.start and self.words[place - 1].means == BRINGS

    def _own_verb_follows(self, place: int, clause: Clause) -> bool:
        following = [self.words[n] for n in range(place + 1, clause.end)]
        if following and following[0].text in POINTERS:
            return True
        real = [word for word in following if not word.little or word.means == SUBJECT]
        return not real or real[0].inflected or real[0].means in (SUBJECT, NOT, NO)

    def _ends_an_act(self, place: int, clause: Clause) -> bool:
        """Return whether *stops* is followed by what stops: stops spinning."""
        return place + 1 < clause.end and self.words[place + 1].acting

    def _deny_backward(self, clause: Clause, by: list[int | None]) -> None:
        """Deny what stands before a denial that ends its clause (heating doesn't), and what stands
        before a word for failing (the spin is missing)."""
        for place in clause:
            means = self.words[place].means
            equals = place > clause.start and self.words[place - 1].text in IS
            fails = means == FAILS and equals and by[place] is None
            ends = means == NOT and self.words[place].text not in EQUALS
            if fails or (ends and self._nothing_follows(place, clause)):
                for before in range(clause.start, place):
                    if by[before] is None:
                        by[before] = place

    def _nothing_follows(self, place: int, clause: Clause) -> bool:
        """Return whether a denial is the last word of its clause, or works is all that follows."""
        behind = [self.words[n] for n in range(place + 1, clause.end)]
        return all(word.little or word.means == self.works for word in behind)

    def _deny_by_no(self, by: list[int | None]) -> None:
        for place, word in enumerate(self.words):
            if word.means != NO:
                continue
            behind = range(place + 1, min(len(self.words), place + 1 + NO_REACHES))
            for n in behind:
                if self.words[n].means in (COMMA, BUT):
                    break
                by[n] = place

    def depends(self, clause: Clause) -> bool:
        """Return whether what a clause says is so only when, or if, the next clause is."""
        nth = self.clauses.index(clause) + 1
        return nth < len(self.clauses) and self.clauses[nth].says_when

    def praised(self, clause: Clause) -> int | None:
        """Return the place of a word of praise in a clause that nothing denies, or of the trouble
        nobody has with something."""
        for place in clause:
            means, denied = self.words[place].means, self.denied[place] is not None
            if (means == WELL and not denied) or (means == TROUBLE and denied):
                return place
        return None

    @cached_property
    def once(self) -> frozenset[int]:
        """Return the places of what was so once, behind *used to*, and of what was done to a
        part."""
        treated = {
            place
            for clause in self.clauses
            if any(self.words[n].means == DONE for n in clause)
            for place in clause
        }
        return self._behind({ONCE}) | treated

    @cached_property
    def unreal(self) -> frozenset[int]:
        """Return the places of what was so once, or only should be: behind *used to*, *should*."""
        return self._behind({ONCE, UNREAL})

    def _behind(self, marks: set[str]) -> frozenset[int]:
        found: set[int] = set()
        for clause in self.clauses:
            since = next((n for n in clause if self.words[n].means in marks), clause.end)
            found |= set(range(since, clause.end))
        return frozenset(found)

    def only_ends(self, place: int, places: Sequence[int]) -> bool:
        """Return whether a place only says that something else ends, which is not among these
        places: who stops draining has not stopped."""
        ended = [n for n, by in enumerate(self.denied) if by == place]
        return self.words[place].means == ENDS and bool(ended) and not set(ended) & set(places)

    def only_onset(self, places: Sequence[int]) -> bool:
        """Return whether all these places say only since when something else is so: after the
        power cut it stopped. Who says nothing else complains: since yesterday the water stays."""
        own = {self.clause_of(place) for place in places}
        return len(self.clauses) > len(own) and all(one.opened_by in ONSET for one in own)

    def clause_of(self, place: int) -> Clause:
        """Return the clause a place stands in. Raises StopIteration for what ends one."""
        return next(clause for clause in self.clauses if clause.start <= place < clause.end)

    def text_of(self, places: Sequence[int]) -> str:
        """Return the words from the first of some places to the last, as typed."""
        stretch = self.words[min(places) : max(places) + 1]
        return " ".join(word.text for word in stretch).replace(" ,", ",")
