"""Errors of the use cases: each carries a status for whoever speaks HTTP, and the field it belongs
to."""


class AppError(Exception):
    """Something asked for cannot be done. ``status`` is the HTTP status a border may use."""

    status = 422
    title = "That cannot be done"

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.field = field


class NotFound(AppError):
    """Nothing with this name."""

    status = 404
    title = "Not found"


class Refused(AppError):
    """The job's rules do not allow it now."""

    status = 409
    title = "Not now"


class Stale(AppError):
    """The form was made before the job moved on."""

    status = 409
    title = "The job has moved on"


class BadValue(AppError):
    """A value that cannot be used."""

    title = "A value to put right"


class InNoTable(BadValue):
    """A code that no table of the machine's sheet has; it may be kept all the same."""


class Unreadable(AppError):
    """A job whose log is kept whole, but that cannot be worked out; says why."""

    status = 422
    title = "This job cannot be read"
