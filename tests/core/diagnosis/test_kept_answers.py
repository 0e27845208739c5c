"""Answers that may be asked again: the last few of each function, by all that was asked."""

from dataclasses import dataclass, field

from bottega.core.diagnosis.kept_answers import KeptAnswers, kept


@dataclass(eq=False)
class Asked:
    answers: KeptAnswers
    times: list[tuple] = field(default_factory=list)


@kept(2)
def double(of: Asked, n: int, *, more: int = 0) -> int:
    of.times.append((n, more))
    return 2 * n + more


def test_the_last_two_answers_are_kept_and_the_oldest_goes_first():
    one = Asked(KeptAnswers())
    assert [double(one, n) for n in (1, 2, 1, 3, 1, 2)] == [2, 4, 2, 6, 2, 4]
    assert one.times == [(1, 0), (2, 0), (3, 0), (2, 0)]
    assert list(one.answers.counts().values()) == [2]


def test_an_argument_by_name_and_another_asked_are_other_questions():
    answers = KeptAnswers()
    one, other = Asked(answers), Asked(answers)
    assert (double(one, 1), double(one, 1, more=5), double(other, 1)) == (2, 7, 2)
    assert (len(one.times), len(other.times)) == (2, 1)
