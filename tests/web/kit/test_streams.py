"""Pages that listen are counted."""

import asyncio
from concurrent.futures import ThreadPoolExecutor

from fastapi import Request

from bottega.web.kit.streams import MOST_STREAMS, counted


def test_pages_that_listen_are_counted_and_sent_away_in_words(browser, demo):
    streams = browser.app.state.streams
    streams.open = MOST_STREAMS
    for address in ("/jobs/0412/live?seen=0", "/jobs/0418/meter/measure_mains"):
        answer = browser.get(address)
        assert answer.status_code == 503
        assert f"expected at most {MOST_STREAMS}" in answer.text
    assert streams.open == MOST_STREAMS


def test_a_stream_that_ended_is_counted_no_more(browser):
    request = Request({"type": "http", "app": browser.app})

    async def listens_and_goes():
        stream = counted(request)
        await anext(stream)
        before = browser.app.state.streams.open
        await stream.aclose()
        return before

    with ThreadPoolExecutor(1) as thread:
        assert thread.submit(lambda: asyncio.run(listens_and_goes())).result() == 1
    assert browser.app.state.streams.open == 0
