"""Which washer a job is on: what is written on it, as a key that survives how people type it."""

from bottega.core.job.job import Job


def washer_keys(job: Job, archetype: str) -> tuple[str, ...]:
    """Return the keys of a job's washer: its label's, and its serial's with the kind of machine,
    since two makers may count alike. Empty where nobody wrote down which it is."""
    serial = plain_mark(job.serial)
    keys = (plain_mark(job.label), f"{archetype.lower()}-{serial}" if serial else "")
    return tuple(key for key in keys if key)


def plain_mark(text: str) -> str:
    """Return a number or serial in small letters and figures alone: W-0412 is w0412."""
    return "".join(c for c in text.lower() if c.isalnum())
