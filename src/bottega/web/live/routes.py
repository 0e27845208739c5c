"""Live updates: an open job hears when somebody else notes something on it."""

from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.sse import EventSourceResponse, ServerSentEvent

from bottega.app.job.answer import position
from bottega.web.kit.page import workshop_of
from bottega.web.kit.streams import LISTENS

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)


def known_job(request: Request, number: str) -> None:
    """Refuse to watch a job that is not there, before the stream begins."""
    position(workshop_of(request), number)


@router.get("/live", response_class=EventSourceResponse, dependencies=[Depends(known_job), LISTENS])
async def job_live(
    request: Request, number: str, seen: Annotated[int, Query(ge=0, le=10**9)]
) -> AsyncIterator[ServerSentEvent]:
    """Send "moved" whenever the job has more events than its reader has seen; at once if it has
    already."""
    workshop = workshop_of(request)
    with workshop.bell.watch(number) as watcher:
        now = await run_in_threadpool(position, workshop, number)
        if now > seen:
            yield _moved(now, "")
        while True:
            ring = await watcher.next()
            if ring.seq > seen:
                yield _moved(ring.seq, ring.author)


def _moved(seq: int, author: str) -> ServerSentEvent:
    return ServerSentEvent(event="moved", data={"seq": seq, "author": author})
