"""The shortest order of all, by an exact search over what is done, how the machine stands and what
is in the hand: the work itself takes what it takes, so only changes and waiting are searched, the
cheapest first; the first order found whole is the shortest. What costs no change and could fill no
soak is done at once, which loses nothing: it has to come before every soak that is left, and no
change is saved by putting it off."""

from heapq import heappop, heappush
from itertools import count
from typing import NamedTuple

from bottega.core.strip.order import (
    HANDS,
    NoOrder,
    Order,
    WorkItem,
    WorkToOrder,
    above,
    naive,
    timed,
)

MOST_STATES = 400_000
"""States looked at before the search gives up and says so; chosen, about ten seconds. No shipped
machine needs more than some thousands."""
TENTHS = 10
"""What is left of a soak is told apart by tenths of a minute."""


class _State(NamedTuple):
    """What is done (a bit an item), posture, tool, and what is left of each soak that was begun
    (by the item that waits for it, in tenths of a minute)."""

    done: int
    posture: str
    tool: str
    soaking: tuple[tuple[int, int], ...]


def shortest(work: WorkToOrder) -> Order:
    """Return the shortest order of all, proved unless the search had to give up. Raises NoOrder for
    a circle."""
    listed = naive(work)
    found = _Search(work).best()
    return timed(work, found, optimal=True) if found is not None else listed


class _Search:
    """The search, with what it knows of every item by its number."""

    def __init__(self, work: WorkToOrder) -> None:
        self.work = work
        self.items = work.items
        place = {item.id: n for n, item in enumerate(work.items)}
        self.before = [self._bits(item.after, place) for item in work.items]
        far = above(work)
        self.fills = [self._fills(item, far) for item in work.items]
        self.begins: list[list[tuple[int, int]]] = [[] for _ in work.items]
        for n, item in enumerate(work.items):
            for oil, minutes in item.soaks:
                if oil in place:
                    self.begins[place[oil]].append((n, round(minutes * TENTHS)))
        self.all = (1 << len(work.items)) - 1

    def _bits(self, names: tuple[str, ...], place: dict[str, int]) -> int:
        return sum(1 << place[name] for name in set(names) if name in place)

    def _fills(self, item: WorkItem, far: dict[str, set[str]]) -> int:
        """Return the items (by bit) whose soak this one may fill: those it neither has to come
        before the oil of, nor has to wait for."""
        bits = 0
        for n, other in enumerate(self.items):
            for oil, _ in other.soaks:
                apart = item.id not in (other.id, oil) and oil in far
                if apart and item.id not in far[oil] and other.id not in far[item.id]:
                    bits |= 1 << n
        return bits

    def best(self) -> list[str] | None:
        """Return the order whose changes and waits take least; None when it gave up."""
        turn = count()
        begin, order = self._settled(_State(0, self.work.posture, HANDS, ()), ())
        heap = [(0, next(turn), begin, order, False)]
        seen: set[tuple[_State, bool]] = set()
        while heap and len(seen) < MOST_STATES:
            spent, _, state, order, over = heappop(heap)
            if (state, over) in seen:
                continue
            seen.add((state, over))
            if over:
                return [self.items[n].id for n in order]
            if state.done == self.all:
                heappush(heap, (spent + self._end(state), next(turn), state, order, True))
                continue
            for n in self._ready(state.done):
                price, then = self._did(state, n)
                settled, longer = self._settled(then, (*order, n))
                heappush(heap, (spent + price, next(turn), settled, longer, False))
        if not heap:
            raise NoOrder("found items that wait for each other, expected none in a circle")
        return None

    def _settled(self, state: _State, order: tuple[int, ...]) -> tuple[_State, tuple[int, ...]]:
        """Do all that costs no change and could fill no soak that is left."""
        found = True
        while found:
            found = False
            for n in self._ready(state.done):
                item = self.items[n]
                free = item.posture in (None, state.posture) and item.tool in (HANDS, state.tool)
                if free and not self.fills[n] & ~state.done and not self._left(state, n):
                    _, state = self._did(state, n)
                    order = (*order, n)
                    found = True
        return state, order

    def _ready(self, done: int) -> list[int]:
        return [n for n, b in enumerate(self.before) if not done >> n & 1 and not b & ~done]

    def _left(self, state: _State, n: int) -> int:
        return dict(state.soaking).get(n, 0)

    def _did(self, state: _State, n: int) -> tuple[int, _State]:
        """Return what changing over and waiting for an item takes, and the state after it."""
        item, prices = self.items[n], self.work.prices
        posture = item.posture or state.posture
        tool = state.tool if item.tool == HANDS else item.tool
        change = prices.postures[posture] if posture != state.posture else 0.0
        change += prices.tool if tool != state.tool else 0.0
        changed = round(change * TENTHS)
        price = max(changed, self._left(state, n))
        passed = price + round(item.minutes * TENTHS)
        soaking = [(w, left - passed) for w, left in state.soaking if w != n and left > passed]
        soaking += self.begins[n]
        return price, _State(state.done | 1 << n, posture, tool, tuple(sorted(soaking)))

    def _end(self, state: _State) -> int:
        ends = self.work.ends
        if ends is None or state.posture == ends:
            return 0
        return round(self.work.prices.postures[ends] * TENTHS)
