"""How a state of an effect is told on a machine of physics: the act, the quantities it shows,
and which of them mean which state."""

from typing import Annotated, Any, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, model_validator

Act = Literal["look", "turn", "push", "lift", "listen", "run", "measure", "ask", "social"]
"""What is done to the machine; ``social`` where only the memory of people answers."""
Span = Annotated[tuple[float, float], Field(min_length=2, max_length=2)]
Spans = dict[str, Span]
Cases = dict[str, tuple[Spans, ...]]
"""By state, the spans of the quantities that mean it, one way or another, in the unit the
quantity's name says."""
PROVOKED = Literal["flex", "warm"]


class RigRecipe(BaseModel):
    """A recipe of physical acts. Its cases are gone through in order and the first that holds is
    the state told; one without a condition always holds. It names no fault."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    act: Act | None = None
    """None for a check's recipe that only adds to that of the effect it reads."""
    run: str | None = None
    """The service step or programme that is run, for ``run`` and ``listen``."""
    points: tuple[str, ...] = ()
    """The test points of ``measure``; a quantity's name where it is no meter's."""
    unplug: str | None = None
    """The load or sensor whose plug is off while it is measured."""
    factor: float = Field(default=1.0, gt=0)
    """From the quantity's unit to that of the check."""
    provoke: PROVOKED | None = None
    """What it does to a machine so that what comes and goes shows itself: moved by hand, or run
    warm."""
    cases: Cases = {}
    reason: str | None = Field(default=None, max_length=200)
    """Why no machine can answer, for ``social``."""

    @model_validator(mode="before")
    @classmethod
    def _short(cls, data: Any) -> Any:
        """Take ``{look: {worn: {x: [1, 9]}, sound: {}}}`` for the act with its cases, and
        ``{social: reason}``."""
        if not isinstance(data, dict):
            return data
        data = {**data, "cases": _ways(data["cases"])} if "cases" in data else data
        acts = [name for name in data if name in get_args(Act) and name != "run"]
        if "act" in data or not acts:
            return data
        if len(acts) > 1:
            raise ValueError(f"found the acts {', '.join(acts)}, expected one of them")
        rest = {key: value for key, value in data.items() if key != acts[0]}
        given = data[acts[0]]
        if acts[0] == "social":
            return {"act": "social", "reason": given, **rest}
        if acts[0] == "measure":
            return {"act": "measure", "points": given, **rest}
        return {"act": acts[0], "cases": _ways(given), **rest}

    @model_validator(mode="after")
    def _whole(self) -> "RigRecipe":
        if self.act == "measure" and not self.points:
            raise ValueError("found no test points, expected one or two to measure at")
        if self.act == "social" and not self.reason:
            raise ValueError("found no reason, expected why no machine can answer")
        if self.act not in ("measure", "social", None) and not self.cases:
            raise ValueError("found no cases, expected the quantities that mean each state")
        if self.act in ("run", "listen") and self.run is None:
            raise ValueError("found nothing to run, expected a service step or programme")
        for state, ways in self.cases.items():
            for name, (low, high) in (item for spans in ways for item in spans.items()):
                if low > high:
                    raise ValueError(
                        f"found {name} from {low} to {high} for {state}, expected low first"
                    )
        return self

    def told(self, quantities: dict[str, float]) -> str | None:
        """Return the first state whose spans all hold, or None where none does. Raises KeyError
        for a quantity that is not there."""
        for state, ways in self.cases.items():
            if any(_holds(spans, quantities) for spans in ways):
                return state
        return None

    def over(self, effect: "RigRecipe | None") -> "RigRecipe":
        """Return this recipe laid over that of the effect it reads: what it does not say is the
        effect's."""
        if effect is None or self.act is not None:
            return self
        return effect.model_copy(
            update={name: getattr(self, name) for name in self.model_fields_set}
        )


class RecipeFile(BaseModel):
    """on_rig/NAME.yaml: how an assembly's effects are told, and its checks done, on a machine of
    physics."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    assembly: str
    effects: dict[str, RigRecipe] = {}
    checks: dict[str, RigRecipe] = {}
    """Only where a check is done otherwise than its effect says."""


def _ways(cases: Any) -> Any:
    if not isinstance(cases, dict):
        return cases
    return {
        state: spans if isinstance(spans, list | tuple) else (spans,)
        for state, spans in cases.items()
    }


def _holds(spans: Spans, quantities: dict[str, float]) -> bool:
    return all(low <= quantities[name] <= high for name, (low, high) in spans.items())
