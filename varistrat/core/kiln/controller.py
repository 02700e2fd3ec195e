"""What any kiln controller does here, and the one that is shipped: it drives the stand-in kiln.

A real device is a class with the same five calls. The simulated one is a plain value: `after` gives the one a while
later, so that a run can be put away and taken up again, at any speed.
"""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, replace
from typing import Any, Literal, Protocol

from varistrat.core.heat.segment import Segment
from varistrat.core.kiln.plant import AIR, Kiln, Load
from varistrat.core.kiln.program import Program
from varistrat.core.laws.numbers import KILN_RATE

STEP = 2.0
"""Seconds of a control step."""
GAIN, RESET = 0.02, 420.0
"""Share of power for a degree under the set point, and seconds in which the standing part follows; somewhat brisk:
it overshoots a little."""
BAND = 6.0
"""A hold counts within so many degrees of its goal."""
THROUGH = 8.0
"""The load counts as hot through when its centre is so near."""
LAG_C, LAG_S = 25.0, 600.0
OVER_C, OVER_S = 18.0, 60.0
SOUND = 0.12
"""Of its usual rate; slower at full power for LAG_S is a fault; indicative."""
SAMPLE = 30.0
"""Seconds between the lines of a record."""
State = Literal["running", "held", "done", "stopped"]
AlarmName = Literal["lag", "over", "limit", "door"]


@dataclass(frozen=True)
class Reading:
    """seconds since the start; set point, chamber and centre of the load C; share of power; segment (from 0) and minutes still to hold."""

    seconds: float
    wanted: float
    chamber: float
    centre: float
    power: float
    segment: int
    left: float


@dataclass(frozen=True)
class Event:
    """Something that happened in a run, with the second it happened."""

    seconds: float
    kind: Literal["segment", "alarm", "hold", "resume", "skip", "done", "stop", "fault"]
    what: str
    alarm: AlarmName | None = None


def _least(rate: float) -> float:
    """C a step that a sound kiln climbs at full power, at the least."""
    return SOUND * rate / 3600 * STEP


class KilnController(Protocol):
    """What a kiln is asked."""

    def read(self) -> Reading:
        """What its instruments say now."""

    def hold(self) -> "KilnController":
        """Stay at the set point of now."""

    def resume(self) -> "KilnController":
        """Go on with the program."""

    def skip(self) -> "KilnController":
        """Go on to the next segment."""

    def stop(self) -> "KilnController":
        """Power off, for good."""


@dataclass(frozen=True)
class SimulatedController(KilnController):
    """A program under way in the stand-in kiln. `wanted`: set point now; `held`: seconds of the hold done; `standing`:
    the integral part."""

    program: Program
    load: Load
    limit: float
    kiln: Kiln = field(default_factory=Kiln)
    state: State = "running"
    seconds: float = 0.0
    segment: int = 0
    wanted: float = AIR
    held: float = 0.0
    standing: float = 0.0
    power: float = 0.0
    lagging: float = 0.0
    over: float = 0.0
    """Seconds it has lagged at full power, and has been too hot without falling."""
    raised: tuple[AlarmName, ...] = ()
    events: tuple[Event, ...] = ()
    record: tuple[Reading, ...] = ()
    rate: float = KILN_RATE.usual
    """What this kiln climbs empty, C/h."""

    @property
    def now(self) -> Segment:
        """The segment under way."""
        return self.program.segments[min(self.segment, len(self.program.segments) - 1)]

    def read(self) -> Reading:
        left = max(0.0, self.now.minutes - self.held / 60)
        return Reading(self.seconds, self.wanted, self.kiln.sensor, self.kiln.centre, self.power, self.segment, left)

    def _said(self, kind: Any, what: str, **more: Any) -> "SimulatedController":
        return replace(self, events=(*self.events, Event(self.seconds, kind, what, more.pop("alarm", None))), **more)

    def hold(self) -> "SimulatedController":
        """Stay at the set point until told to go on."""
        return self._said("hold", "Held by hand.", state="held") if self.state == "running" else self

    def resume(self) -> "SimulatedController":
        return self._said("resume", "Going on.", state="running") if self.state == "held" else self

    def skip(self) -> "SimulatedController":
        """On to the next segment."""
        return self._next("skip") if self.state in ("running", "held") else self

    def stop(self) -> "SimulatedController":
        """Power off for good."""
        return self._said("stop", "Stopped by hand: power off.", state="stopped", power=0.0) if self.state in ("running", "held") else self

    def with_fault(self, failed: bool | None = None, door: bool | None = None) -> "SimulatedController":
        """Make an element fail (or mend it), open or shut the door."""
        kiln, words = self.kiln, []
        if failed is not None and failed != kiln.failed:
            kiln = replace(kiln, failed=failed)
            words.append("An element fails." if failed else "The element is mended.")
        if door is not None and door != kiln.door:
            kiln = replace(kiln, door=door)
            words.append("The door is opened." if door else "The door is shut.")
        return self._said("fault", " ".join(words), kiln=kiln) if words else self

    def _next(self, kind: Any = "segment") -> "SimulatedController":
        if self.segment + 1 >= len(self.program.segments):
            return self._said("done", "The program is done: power off.", state="done", power=0.0)
        at = self.segment + 1
        goal = self.program.segments[at]
        what = f"out into still air until it is down to {goal.celsius:.0f} C." if goal.out else f"to {goal.celsius:.0f} C."
        return self._said(kind, f"Segment {at + 1}: {what}", segment=at, held=0.0, state="running")

    def after(self, seconds: float) -> "SimulatedController":
        """The run so much later; stops by itself at its end."""
        run = self
        for _ in range(int(seconds // STEP)):
            if run.state in ("done", "stopped"):
                break
            run = run._step()
        return run

    def _step(self) -> "SimulatedController":
        goal = self.now
        wanted = self._while_out() if goal.out and self.state == "running" else self.wanted
        moving = self.state == "running" and not goal.out and abs(wanted - goal.celsius) > 1e-9
        if moving:
            most = abs(goal.celsius - wanted) if goal.rate is None else goal.rate / 3600 * STEP
            # as fast as it can: the set point stands at the goal and waits
            wanted = min(goal.celsius, wanted + most) if goal.celsius > wanted else max(goal.celsius, wanted - most)
        error = wanted - self.kiln.sensor
        share = GAIN * error + self.standing
        power = min(1.0, max(0.0, share))
        # the standing part waits while power is at its end, or it would run away
        standing = self.standing if share != power and error * (share - power) > 0 else self.standing + GAIN * error * STEP / RESET
        if power <= 0 and error < -3 * BAND:
            standing = min(standing, 0.2)
        kiln = self.kiln.after(STEP, power, self.load, goal.out)
        # a kiln on its way down falls as slowly as it likes
        falling = kiln.inner < kiln.sensor - 0.5 or power <= 0
        run = replace(
            self,
            over=self.over + STEP if kiln.sensor > wanted + OVER_C and not falling else 0.0,
            kiln=kiln,
            seconds=self.seconds + STEP,
            wanted=wanted,
            power=power,
            standing=min(1.0, max(-0.2, standing)),
            lagging=self.lagging + STEP
            if error > LAG_C and power >= 1.0 and not (goal.rate is None and kiln.sensor > self.kiln.sensor + _least(self.rate))
            else 0.0,
        )
        if run.state == "running" and goal.out:
            if kiln.centre <= goal.celsius and kiln.sensor <= wanted + BAND:
                run = replace(run, held=run.held + STEP)
                if run.held >= goal.minutes * 60:
                    run = run._next()
        elif run.state == "running" and abs(wanted - goal.celsius) < 1e-9:
            there = abs(kiln.sensor - goal.celsius) <= BAND and (not goal.through or kiln.centre >= goal.celsius - THROUGH)
            falling = goal.minutes == 0 and kiln.sensor <= goal.celsius + BAND and goal.celsius < self.kiln.sensor + BAND
            if there or falling:
                run = replace(run, held=run.held + STEP)
                if run.held >= goal.minutes * 60:
                    run = run._next()
        run = run._alarms()
        if int(run.seconds // SAMPLE) > int(self.seconds // SAMPLE) or run.segment != self.segment or run.state in ("done", "stopped"):
            run = replace(run, record=(*run.record, run.read()))
        return run

    def _while_out(self) -> float:
        """Set point while the load hangs in the air: the kiln goes on to the next heat, so that it is not put back into one too hot."""
        following = self.program.segments[self.segment + 1 :]
        nxt = next((s.celsius for s in following if not s.out), None)
        return self.wanted if nxt is None else min(self.wanted, nxt)

    def _alarms(self) -> "SimulatedController":
        """Raise what is new, take down what is over."""
        now: dict[AlarmName, str] = {}
        if self.lagging >= LAG_S:
            now["lag"] = (
                f"{self.wanted - self.kiln.sensor:.0f} C° behind at full power for {LAG_S / 60:.0f} min: an element may have failed, or "
                "the door is open."
            )
        if self.over >= OVER_S:
            now["over"] = f"{self.kiln.sensor - self.wanted:.0f} C° over its set point."
        if self.kiln.sensor > self.limit:
            now["limit"] = f"Over {self.limit:.0f} C, the most it may: power off."
        if self.kiln.door:
            now["door"] = "The door is open."
        run = self
        for name, what in now.items():
            if name not in self.raised:
                run = run._said("alarm", what, alarm=name)
        if "limit" in now:
            run = run._said("stop", "Stopped by itself.", state="stopped", power=0.0) if run.state in ("running", "held") else run
        return replace(run, raised=tuple(now)) if tuple(now) != run.raised else run

    # -- put away, taken up -----------------------------------------------

    def put_away(self) -> dict[str, Any]:
        """Plain JSON without the record and the events, which only grow."""
        out = asdict(replace(self, record=(), events=()))
        out["program"] = self.program.model_dump()
        return out

    @classmethod
    def taken_up(cls, kept: Mapping[str, Any]) -> "SimulatedController":
        """From `put_away`."""
        given = {k: v for k, v in kept.items() if k not in ("record", "events")}
        given |= {
            "program": Program(**kept["program"]),
            "load": Load(**kept["load"]),
            # what is called its centre was once its heart: runs are kept for years
            "kiln": Kiln(**{"centre" if k == "heart" else k: v for k, v in kept["kiln"].items()}),
            "raised": tuple(kept["raised"]),
        }
        return cls(**given)
