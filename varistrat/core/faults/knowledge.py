"""What is seen, what it can come from, what tells the causes apart: read from known/*.toml and checked as it is read."""

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Annotated, Any, Literal

from pydantic import Field

from varistrat.core.model import Model

SIGN, NO_SIGN = 0.95, 0.03
"""Chance of a cause's own sign when it is the cause, and when it is another; indicative."""
Chance = Annotated[float, Field(gt=0, lt=1)]
Text = Annotated[str, Field(min_length=3, max_length=400)]


class Sign(Model):
    """The look that tells a cause from the others: a question of yes or no, and the minutes it costs."""

    ask: Text
    minutes: Annotated[float, Field(gt=0, le=240)]


class Cause(Model):
    """now: what to do with this piece; avoid: how the plan is otherwise next time; change: what one click does, by name; risky: the cure
    can cost the piece or hurt, and is told only after its sign was looked for."""

    says: Text
    now: Text
    avoid: Text
    change: Annotated[str, Field(max_length=40)] = ""
    risky: bool = False
    sign: Sign


class Seen(Model):
    """causes: by key, their odds before anything else is known."""

    says: Text
    look: Text
    causes: dict[str, Annotated[float, Field(gt=0, le=100)]]


class Cue(Model):
    """What the design or the log says: a figure of cues.py, over or under a limit with its width; chance: of being so by cause."""

    source: Annotated[Literal["design", "log"], Field(alias="from")]
    reads: str
    over: float | None = None
    under: float | None = None
    width: Annotated[float, Field(gt=0)]
    unit: str = ""
    says: Text
    chance: dict[str, Chance]
    other: Chance

    def degree(self, value: float) -> float:
        """How far it is so, 0 to 1: half at the limit."""
        from math import exp

        off = value - self.over if self.over is not None else (self.under or 0.0) - value
        return 1 / (1 + exp(-max(-60.0, min(60.0, 2 * off / self.width))))

    @property
    def limit(self) -> float:
        """Where it turns."""
        return self.over if self.over is not None else self.under or 0.0


@dataclass(frozen=True)
class Knowledge:
    """Everything by key."""

    seen: Mapping[str, Seen]
    causes: Mapping[str, Cause]
    cues: Mapping[str, Cue]

    def chance(self, look: str, cause: str) -> float:
        """That the answer to a cause's sign is yes, when `cause` is the cause."""
        return SIGN if look == cause else NO_SIGN


@cache
def knowledge() -> Knowledge:
    """As it ships. Raises ValueError for a cause nobody describes, or described twice."""
    seen: dict[str, Seen] = {}
    causes: dict[str, Cause] = {}
    cues: dict[str, Cue] = {}
    for file in sorted((files(__package__) / "known").iterdir(), key=lambda f: f.name):
        if not file.name.endswith(".toml"):
            continue
        data: dict[str, Any] = tomllib.loads(file.read_text("utf-8"))
        if file.name == "cues.toml":
            cues = {k: Cue.model_validate(v) for k, v in data.items()}
            continue
        for key in (*data.get("seen", {}), *data.get("cause", {})):
            if key in seen or key in causes:
                raise ValueError(f"{file.name}: {key} is described twice")
        seen |= {k: Seen.model_validate(v) for k, v in data.get("seen", {}).items()}
        causes |= {k: Cause.model_validate(v) for k, v in data.get("cause", {}).items()}
    for key, s in seen.items():
        if missing := set(s.causes) - set(causes):
            raise ValueError(f"{key}: nobody describes {', '.join(sorted(missing))}")
    for key, c in cues.items():
        if (c.over is None) == (c.under is None):
            raise ValueError(f"{key}: it is over or under something")
        if missing := set(c.chance) - set(causes):
            raise ValueError(f"{key}: nobody describes {', '.join(sorted(missing))}")
    return Knowledge(seen, causes, cues)
