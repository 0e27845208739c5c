"""Addresses: made from the name of a page and its values, never typed."""

from collections.abc import Mapping, Sequence
from functools import lru_cache
from re import Pattern
from urllib.parse import quote, urlencode

from starlette.routing import BaseRoute, Route

Value = str | int | float | None
STATIC_PATH = "/static"
ADDRESSES_KEPT = 8192
"""Addresses remembered; chosen, a page has about thirty."""


class UnknownAddress(LookupError):
    """No page of this name, or one of its values is missing."""


class Urls:
    """Makes addresses from the routes of an application: ``urls("job_station", number="0412",
    station="prove")``."""

    def __init__(
        self, paths: Mapping[str, str], shown: Sequence[Pattern[str]] = (), edition: str = ""
    ) -> None:
        self._paths = dict(paths)
        self._shown = tuple(shown)
        self._static = f"{STATIC_PATH}/{edition}" if edition else STATIC_PATH

    @classmethod
    def of(cls, *routes: BaseRoute, edition: str = "") -> "Urls":
        """Return the addresses of some routes by their names; mounted folders have none.

        ``edition`` is the one of the files that are served as they are."""
        known = [route for route in routes if isinstance(route, Route)]
        shown = [route.path_regex for route in known if "GET" in (route.methods or ())]
        return cls({route.name: route.path_format for route in known}, shown, edition)

    def __call__(self, page: str, /, **values: Value) -> str:
        """Return the address of a page. Values it has no place for become its query; None is left
        out.

        Raises UnknownAddress.
        """
        return _address(self._path(page), tuple(values.items()))

    def _path(self, page: str) -> str:
        path = self._paths.get(page)
        if path is None:
            known = ", ".join(sorted(self._paths))
            raise UnknownAddress(f"found the page '{page}', expected one of {known}")
        return path

    def above(self, path: str) -> str:
        """Return the address of the page a form's address belongs to: the next one above that can
        be looked at, at last the bench."""
        while path.strip("/"):
            path = path.rpartition("/")[0] or "/"
            if any(pattern.match(path) for pattern in self._shown):
                return path
        return "/"

    def static(self, file: str) -> str:
        """Return the address of a file that is served as it is."""
        return f"{self._static}/{file}"


@lru_cache(maxsize=ADDRESSES_KEPT)
def _address(path: str, values: tuple[tuple[str, Value], ...]) -> str:
    """Return a path with its values in place, those it has no place for as its query."""
    query = {}
    for name, value in values:
        place = "{" + name + "}"
        if place in path:
            path = path.replace(place, quote(str(value), safe=""))
        elif value is not None:
            query[name] = str(value)
    if "{" in path:
        raise UnknownAddress(f"found no value for '{path}', expected one for each name in braces")
    return path + (f"?{urlencode(query)}" if query else "")
