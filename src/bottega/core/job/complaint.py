"""Sort a complaint as typed: which of the library's phrases it holds, which things it says go well,
how often it happens, and what nobody made out."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from bottega.core.job.clause import NO, NOT, Sentence
from bottega.core.job.events import Often
from bottega.core.job.speech import Listener, Match, Phrase, find, goes_well, plain
from bottega.core.kept import Same
from bottega.core.library.machine_type import Complaint, MachineType
from bottega.core.library.tables import SpeechTable
from bottega.core.library.vocabulary import PHASES


@dataclass(frozen=True)
class HeardPhrase:
    """A phrase heard in a complaint, and the words that gave it away; ``well`` when they say that
    it is not so."""

    complaint: Complaint
    words: str
    well: bool = False


@dataclass(frozen=True)
class Hearing:
    """What was made of a customer's words."""

    said: tuple[HeardPhrase, ...]
    """In the order of the cycle's phases."""
    well: tuple[HeardPhrase, ...]
    """What they say goes well, or is not there."""
    often: Often
    lost: tuple[str, ...]
    """Stretches of the text in which nothing was made out."""

    @property
    def ids(self) -> tuple[str, ...]:
        """Return the ids of the phrases heard."""
        return tuple(heard.complaint.id for heard in self.said)

    @property
    def well_ids(self) -> tuple[str, ...]:
        """Return the ids of the phrases that are said not to be so."""
        return tuple(heard.complaint.id for heard in self.well)


@dataclass(frozen=True)
class Picks:
    """What the person at the form ticked and unticked against what was heard."""

    yes: tuple[str, ...] = ()
    """Phrases ticked by hand."""
    no: Mapping[str, str] = field(default_factory=dict)
    """Phrases unticked by hand, each with the words that had been heard for it."""

    def over(
        self, heard: tuple[HeardPhrase, ...], against: tuple[HeardPhrase, ...]
    ) -> tuple[tuple[str, ...], "Picks"]:
        """Return the phrases that stand, and the picks that still do.

        A pick wins over the text until the text is rewritten against it: a tick, when the words now
        say that it is not so; an untick, when they say it in other words.
        """
        denied = {item.complaint.id for item in against}
        words = {item.complaint.id: item.words for item in heard}
        yes = tuple(name for name in self.yes if name not in denied)
        no = {name: was for name, was in self.no.items() if words.get(name, was) == was}
        stands = [name for name in words if name not in no]
        return tuple(dict.fromkeys([*stands, *yes])), Picks(yes, no)

    def after(self, shown: Mapping[str, str], ticked: Iterable[str]) -> "Picks":
        """Return the picks after a form came back: ``shown`` are the phrases that were heard and
        stood ticked, each with its words, ``ticked`` those that are ticked now."""
        now = tuple(ticked)
        yes = [name for name in now if name not in shown]
        no = {name: words for name, words in {**self.no, **shown}.items() if name not in now}
        return Picks(tuple(yes), no)


EARS = 16
"""How many machines are listened for without taking their phrases apart again; chosen, twice the
kinds."""
_Found = tuple[Complaint, int, Match]
"""A phrase, the sentence and where it stands in it."""


def hear(machine: MachineType, speech: SpeechTable, text: str) -> Hearing:
    """Return what a customer's words say of a machine. What is both said and denied is said."""
    ear = _ear(machine, Same(speech))
    sentences = ear.listener.sentences(text)
    said, well = _specific(*_found(ear, sentences))
    names = {complaint.id for complaint, _, _ in said}
    well = [found for found in well if found[0].id not in names]
    often = _often(speech, text)
    return Hearing(
        said=_heard(said, sentences, False),
        well=_heard(well, sentences, True),
        often=often,
        lost=tuple(_lost(sentences, [*said, *well], speech)),
    )


def by_phase(machine: MachineType) -> list[tuple[str, list[Complaint]]]:
    """Return all phrases grouped by phase, phases in the order of a cycle, empty ones left out."""
    grouped = [
        (phase, [c for c in machine.complaints.values() if c.record.phase == phase])
        for phase in PHASES
    ]
    return [(phase, phrases) for phase, phrases in grouped if phrases]


@dataclass(frozen=True)
class _Ear:
    """What listens for a machine: its words, and every phrase of a complaint, each with the words
    that a sentence has to hold for it."""

    listener: Listener
    phrases: tuple[tuple[Complaint, Phrase, frozenset[str]], ...]


@lru_cache(maxsize=EARS)
def _ear(machine: MachineType, speech: Same[SpeechTable]) -> _Ear:
    listener = Listener(speech.of, _words(machine))
    phrases = [
        (complaint, phrase, frozenset(word for part in phrase for word in part) - {NOT, NO})
        for complaint in machine.complaints.values()
        for phrase in map(listener.phrase, complaint.record.words)
    ]
    return _Ear(listener, tuple(phrases))


def _words(machine: MachineType) -> set[str]:
    return {
        word.strip(",.").lower()
        for complaint in machine.complaints.values()
        for phrase in complaint.record.words
        for word in phrase.split()
    }


def _found(ear: _Ear, sentences: list[Sentence]) -> tuple[list[_Found], list[_Found]]:
    said: list[_Found] = []
    well: list[_Found] = []
    for n, sentence in enumerate(sentences):
        spoken = {word.means for word in sentence.words}
        for complaint, phrase, wanted in ear.phrases:
            if not wanted <= spoken:
                continue
            match = find(phrase, sentence)
            if match is not None:
                (well if match.denied else said).append((complaint, n, match))
            praised = goes_well(phrase, sentence)
            if praised is not None:
                well.append((complaint, n, praised))
    return said, well


def _specific(said: list[_Found], well: list[_Found]) -> tuple[list[_Found], list[_Found]]:
    """Return what was heard without phrases that a longer phrase of another complaint holds: who
    says that the motor hums does not say that it hums while draining, and who has no water on the
    floor does not lack water."""
    every = [*said, *well]

    def held(found: _Found) -> bool:
        complaint, n, match = found
        return any(
            m == n and other.id != complaint.id and set(match.places) < set(wider.places)
            for other, m, wider in every
        )

    return [one for one in said if not held(one)], [one for one in well if not held(one)]


def _heard(found: list[_Found], sentences: list[Sentence], well: bool) -> tuple[HeardPhrase, ...]:
    first: dict[str, HeardPhrase] = {}
    for complaint, n, match in found:
        words = sentences[n].text_of(match.places)
        first.setdefault(complaint.id, HeardPhrase(complaint, words, well))
    order = sorted(first.values(), key=lambda heard: PHASES.index(heard.complaint.record.phase))
    return tuple(order)


def _often(speech: SpeechTable, text: str) -> Often:
    spoken = f" {' '.join(plain(text).lower().translate(_NO_MARKS).split())} "
    if any(f" {phrase} " in spoken for phrase in speech.now_and_then):
        return "now and then"
    return "every time" if any(f" {p} " in spoken for p in speech.every_time) else ""


_NO_MARKS = str.maketrans(dict.fromkeys(".,;:!?", " "))


def _lost(sentences: list[Sentence], found: list[_Found], speech: SpeechTable) -> list[str]:
    """Return the clauses that hold a word with a meaning and nothing that was heard."""
    lost = []
    phrases = (*speech.now_and_then, *speech.every_time)
    often = {word for phrase in phrases for word in phrase.split()}
    for n, sentence in enumerate(sentences):
        heard = {place for _, m, match in found if m == n for place in match.places}
        for clause in sentence.clauses:
            words = [sentence.words[place] for place in clause]
            says = any(
                word.means == NOT or (not word.little and word.text not in often) for word in words
            )
            if says and not heard & set(clause):
                lost.append(" ".join(word.text for word in words))
    return lost
