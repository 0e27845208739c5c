"""Live updates: an open job hears when somebody else notes something on it."""

import json
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from sse_starlette import EventSourceResponse, ServerSentEvent

from bottega.app.diagnosing import position
from bottega.app.workshop import Workshop
from bottega.web.rendering import workshop_of

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
PING_S = 20


@router.get("/live")
async def live(request: Request, number: str, seen: Annotated[int, Query(ge=0)]) -> EventSourceResponse:
    """Send "moved" whenever the job has more events than its reader has seen; at once if it has already."""
    workshop = workshop_of(request)
    await run_in_threadpool(position, workshop, number)
    return EventSourceResponse(_moves(workshop, number, seen), ping=PING_S)


async def _moves(workshop: Workshop, number: str, seen: int) -> AsyncIterator[ServerSentEvent]:
    with workshop.bell.watch(number) as watcher:
        now = await run_in_threadpool(position, workshop, number)
        if now > seen:
            yield _moved(now, "")
        while True:
            ring = await watcher.next()
            if ring.seq > seen:
                yield _moved(ring.seq, ring.author)


def _moved(seq: int, author: str) -> ServerSentEvent:
    return ServerSentEvent(event="moved", data=json.dumps({"seq": seq, "author": author}))
