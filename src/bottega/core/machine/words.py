"""How putting something back is said, from how taking it off is."""

import re

_SAID: tuple[tuple[str, str], ...] = (
    (r"Take (.+) and fold the bellows inward", r"Fold the bellows back and put \1 on"),
    (r"Take (.+?) out (?:by the front|through the front)", r"Put \1 in by the front"),
    (r"Take (.+) off at both ends", r"Put \1 on at both ends"),
    (r"Take (.+?) out of (.+)", r"Put \1 back into \2"),
    (r"Take (.+?) off (the|its) (.+)", r"Put \1 back on \2 \3"),
    (r"Take (.+?) off in (.+)", r"Put \1 on in \2"),
    (r"Take (.+) off", r"Put \1 on"),
    (r"Take (.+) out", r"Put \1 in"),
    (r"Drive (.+?) out of (.+)", r"Set \1 into \2"),
    (r"Drive (.+?) out from above", r"Press \1 in from above"),
    (r"Drive (.+) out", r"Press \1 in"),
    (r"Lever (.+) out", r"Press \1 in"),
    (r"Lift (.+?) out through the front", r"Lift \1 in through the front"),
    (r"Lift (.+) out", r"Lift \1 in"),
    (r"Pull (.+?) out of (.+)", r"Push \1 into \2"),
    (r"Pull (.+?) off its spline", r"Push \1 on its spline"),
    (r"Pull (.+) off", r"Push \1 on"),
    (r"Pull (.+) out", r"Push \1 in"),
    (r"Pull (.+)", r"Push \1 in"),
    (r"Roll (.+) off", r"Roll \1 on"),
    (r"Slip (.+) off", r"Slip \1 on"),
    (r"Slide (.+) forward", r"Slide \1 home"),
    (r"Unscrew (.+)", r"Screw \1 in"),
    (r"Unhook (.+), one after the other", r"Hook \1 in, one after the other"),
    (r"Unhook (.+) from (.+)", r"Hook \1 into \2"),
    (r"Unhook (.+)", r"Hook \1 in"),
    (r"Fold (.+) up", r"Fold \1 down"),
    (r"Open (.+)", r"Shut \1"),
    (r"Part (.+)", r"Join \1"),
)
"""From the most particular to the most general."""


def put_back_words(name: str) -> str:
    """Return how an operation is said the other way round; plainly, where no way of saying it is
    known."""
    for pattern, back in _SAID:
        if re.fullmatch(pattern, name):
            return re.sub(pattern, back, name)
    return f"Put back: {name[0].lower()}{name[1:]}"


_THING = re.compile(
    r"\w+ (?:the |a )?(.+?)(?: (?:off|out|up|forward|in)\b.*| and fold .*| at the .*)?"
)


def thing_of(name: str) -> str:
    """Return what an operation takes off, by name: "sump hose" of "Take the sump hose off the
    tub"."""
    match = _THING.fullmatch(name)
    return match.group(1) if match else name
