"""A refusal: something that may not happen on a job now."""


class JobRefusal(ValueError):
    """Something that may not happen on this job now. ``field`` names what is wrong, if one thing
    is."""

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.field = field
