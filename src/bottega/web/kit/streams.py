"""Pages that are kept open to hear what happens are counted, so that they never use up the files a
process may open."""

from collections.abc import AsyncIterator

from fastapi import Depends, Request

from bottega.app.errors import AppError

MOST_STREAMS = 150
"""Pages that may listen at once; chosen, a shop of twenty with seven pages each. Most systems let a
process open a thousand files."""


class Crowded(AppError):
    """Too many pages listen already."""

    status = 503
    title = "Too many pages are open"


class Streams:
    """Counts the pages that listen; used from the event loop alone."""

    def __init__(self) -> None:
        self.open = 0

    def begin(self) -> None:
        """Count one more. Raises Crowded."""
        if self.open >= MOST_STREAMS:
            raise Crowded(
                f"{self.open} pages listen to this shop already, expected at most {MOST_STREAMS}. "
                "Everything works without listening; close pages nobody looks at and load this "
                "one again."
            )
        self.open += 1

    def end(self) -> None:
        """Count one less."""
        self.open -= 1


async def counted(request: Request) -> AsyncIterator[None]:
    """Count a page for as long as its stream lasts. Raises Crowded before it begins."""
    streams: Streams = request.app.state.streams
    streams.begin()
    try:
        yield
    finally:
        streams.end()


LISTENS = Depends(counted)
"""What every route needs that keeps a page listening."""
