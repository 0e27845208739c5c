"""Sentences of customers, held against what is heard in them."""

from collections.abc import Sequence
from pathlib import Path

from pydantic import BaseModel, ConfigDict, Field

from bottega.app.errors import BadValue
from bottega.benchmark.policy import workshop
from bottega.core.job.complaint import hear
from bottega.core.library.errors import LibraryError
from bottega.core.library.yamlfile import read_yaml

SENTENCES = Path(__file__).with_name("sentences.yaml")
WELL, OFTEN = "well ", "often "
"""Before a phrase that is said not to be so; before how often it happens."""


class SaidSentence(BaseModel):
    """What somebody said of a machine, what is meant, and what must not be heard."""

    model_config = ConfigDict(extra="forbid")

    say: str
    kind: str = "FB"
    means: list[str]
    not_: list[str] = Field(default=[], alias="not")


class SentenceHeard(BaseModel):
    """What was heard in one sentence, by the vocabulary."""

    say: str
    kind: str
    missed: list[str]
    """What was meant and not heard."""
    opposite: list[str]
    """What was heard and must not be, and what was meant and heard as its contrary."""
    more: list[str]
    """What was heard besides, and neither meant nor forbidden."""
    not_made_out: bool
    """Whether something was meant and nothing at all was heard."""


class HearingBench(BaseModel):
    """All sentences together: the share of meanings heard, and how many sentences went wrong."""

    sentences: int
    meanings: int
    heard: float
    opposite: int
    missed: int
    more: int
    not_made_out: int
    wrong: list[SentenceHeard]


def read_sentences(path: Path) -> list[SaidSentence]:
    """Return the sentences of a file. Raises BadValue for a file that holds none, for a machine
    nobody knows and for a meaning it has no word for."""
    try:
        sentences = [SaidSentence.model_validate(one) for one in read_yaml(path).data]
    except (OSError, ValueError, TypeError, LibraryError) as error:
        raise BadValue(f"Found no sentences in {path}: {str(error)[:300]}.", "file") from error
    for one in sentences:
        unknown = {*one.means, *one.not_} - vocabulary(one.kind).keys()
        if unknown:
            raise BadValue(
                f"Found the meaning '{sorted(unknown)[0]}' of \"{one.say[:80]}\", "
                "expected one that --vocabulary prints.",
                "file",
            )
    return sentences


def vocabulary(kind: str) -> dict[str, str]:
    """Return every meaning that can be heard of a machine of a kind, by its id, in plain words.
    Raises BadValue for an unknown kind."""
    shelf = workshop().shelf
    if kind not in shelf.archetypes:
        raise BadValue(
            f"Found the kind '{kind}', expected one of {', '.join(shelf.archetypes)}.", "file"
        )
    complaints = shelf.machine(kind).complaints
    said = {name: complaint.record.says for name, complaint in complaints.items()}
    well = {f"{WELL}{name}": f"It is not so: {words}" for name, words in said.items()}
    often = {
        f"{OFTEN}every time": "It does so every time",
        f"{OFTEN}now and then": "It does so now and then",
    }
    return {**said, **well, **often}


def bench_hearing(sentences: Sequence[SaidSentence]) -> HearingBench:
    """Return what is heard in these sentences."""
    found = [listen(one) for one in sentences]
    meanings = sum(len(one.means) for one in sentences)
    missed = sum(len(one.missed) for one in found)
    return HearingBench(
        sentences=len(found),
        meanings=meanings,
        heard=round(1 - missed / max(meanings, 1), 4),
        opposite=sum(bool(one.opposite) for one in found),
        missed=missed,
        more=sum(bool(one.more) for one in found),
        not_made_out=sum(one.not_made_out for one in found),
        wrong=[one for one in found if one.missed or one.opposite or one.more],
    )


def listen(one: SaidSentence) -> SentenceHeard:
    """Return what is heard in a sentence, held against what is meant."""
    shelf = workshop().shelf
    hearing = hear(shelf.machine(one.kind), shelf.tables.speech, one.say)
    well = {f"{WELL}{name}" for name in hearing.well_ids}
    often = {f"{OFTEN}{hearing.often}"} if hearing.often else set()
    got, meant = {*hearing.ids, *well, *often}, set(one.means)
    contrary = {name.removeprefix(WELL) if name.startswith(WELL) else WELL + name for name in meant}
    opposite = got & ({*one.not_} | contrary)
    return SentenceHeard(
        say=one.say,
        kind=one.kind,
        missed=sorted(meant - got),
        opposite=sorted(opposite),
        more=sorted(set(hearing.ids) - meant - opposite),
        not_made_out=bool(meant) and not hearing.ids and not well,
    )


def hearing_rows(bench: HearingBench) -> tuple[list[str], list[list[str]]]:
    """Return the figures as a table, its head and its rows, with the sentences that went wrong."""
    rows = [
        ["meanings heard", f"{bench.heard:.1%} of {bench.meanings}", ">= 95 %"],
        ["sentences heard as their opposite", str(bench.opposite), "<= 1 in 300"],
        ["meanings missed", str(bench.missed), ""],
        ["sentences in which more was heard", str(bench.more), ""],
        ["sentences in which nothing was made out", str(bench.not_made_out), ""],
    ]
    for one in bench.wrong:
        told = [
            f"{name} {', '.join(ids)}"
            for name, ids in (
                ("opposite", one.opposite),
                ("missed", one.missed),
                ("more", one.more),
            )
            if ids
        ]
        rows.append([f"{one.kind} {one.say}", "; ".join(told), ""])
    return [f"{bench.sentences} sentences", "found", "goal"], rows
