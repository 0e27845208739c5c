"""The round of clearing, running and reading again leads on, step by step."""

from tests.core.job.log import RUN_WELL, Log

from bottega.core.job.clearing import ClearingRound, clearing_round
from bottega.core.job.events import CodesCleared, PanelRead


def read(*codes):
    return PanelRead(result="codes" if codes else "none", codes=codes)


def test_no_code_read_is_no_round(f7):
    assert clearing_round(Log(f7).do(PanelRead(result="unreadable")).job) is None


def test_it_leads_from_clearing_over_the_run_to_what_came_back(f7):
    ids = list(f7.codes)[:2]
    log = Log(f7).do(read(*ids))
    assert clearing_round(log.job) == ClearingRound("clear")
    log.do(CodesCleared())
    assert clearing_round(log.job) == ClearingRound("run")
    log.do(RUN_WELL)
    assert clearing_round(log.job) == ClearingRound("read")
    log.do(read(ids[1]))
    assert clearing_round(log.job) == ClearingRound("done", back=(ids[1],), away=(ids[0],))


def test_a_second_clearing_begins_the_run_anew(f7):
    code = next(iter(f7.codes))
    log = Log(f7).do(read(code), CodesCleared(), RUN_WELL)
    log.do(read(code), CodesCleared())
    assert clearing_round(log.job) == ClearingRound("run")
