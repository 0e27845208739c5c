"""Who watches a job hears of it."""

import asyncio

from tests.conftest import new_id

from bottega.app.job.record import record
from bottega.app.live.bell import Bell
from bottega.core.job.events import Checked


def test_the_bell_rings_for_whoever_watches_that_job_only():
    async def watch():
        bell = Bell()
        with bell.watch("0412") as one, bell.watch("0412") as two, bell.watch("0403") as other:
            await asyncio.to_thread(bell.ring, "0412", 7, "Pia")
            await asyncio.to_thread(bell.ring, "0412", 8, "Tomo")
            newest = await asyncio.wait_for(one.next(), 5)
            assert (await asyncio.wait_for(two.next(), 5)).seq >= 7
            assert other.rings.empty()
            assert bell.watchers("0412") == 2
        assert bell.watchers("0412") == 0
        return newest

    assert asyncio.run(watch()).author in ("Pia", "Tomo")


def test_noting_something_rings(workshop, houseboat):
    heard = []
    workshop.bell = replace_ring(heard)
    record(
        workshop, houseboat, Checked(check="ask_filter", outcome="clear"), "Pia", event_id=new_id()
    )
    assert heard == [(houseboat, 3, "Pia")]


def replace_ring(heard):
    bell = Bell()
    bell.ring = lambda number, seq, author: heard.append((number, seq, author))
    return bell
