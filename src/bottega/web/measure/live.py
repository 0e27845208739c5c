"""The meter on the page: what it shows at a check, sent as it comes."""

import asyncio
from collections.abc import AsyncIterator
from dataclasses import asdict

from fastapi import APIRouter, Depends, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.sse import EventSourceResponse, ServerSentEvent

from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.app.measure.meter import Ear
from bottega.devices.link import MeterSample
from bottega.web.kit.page import workshop_of
from bottega.web.kit.streams import LISTENS

WAITING = 20
"""Samples that wait for a page that reads slowly before the oldest is dropped; chosen, two
seconds."""

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)


def ear_of(request: Request, number: str, check: str, quantity: str | None = None) -> Ear:
    """Return the ear for a check, or for another ``quantity`` it is worked out of, before the
    stream begins. Raises NotFound, Refused."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    if check not in answer.machine.checks:
        raise NotFound(f"Found the check '{check[:40]}', expected one of this machine's.")
    return Ear(workshop, answer, answer.machine.checks[check], quantity)


@router.get("/meter/{check}", response_class=EventSourceResponse, dependencies=[LISTENS])
async def meter_live(
    request: Request, ear: Ear = Depends(ear_of)
) -> AsyncIterator[ServerSentEvent]:
    """Send what the meter shows, sample by sample, for as long as the page listens."""
    loop = asyncio.get_running_loop()
    samples: asyncio.Queue[MeterSample] = asyncio.Queue(WAITING)

    def take(sample: MeterSample) -> None:
        if samples.full():
            samples.get_nowait()
        samples.put_nowait(sample)

    def listener(sample: MeterSample) -> None:
        if not loop.is_closed():
            loop.call_soon_threadsafe(take, sample)

    link = workshop_of(request).links.to(ear.instrument.resource)
    await run_in_threadpool(link.listen, ear.quantity_name, listener)
    try:
        while True:
            shown = ear.hear(await samples.get())
            yield ServerSentEvent(event="reading", data=asdict(shown))
    finally:
        link.leave(listener)
