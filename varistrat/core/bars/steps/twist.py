"""Twisting a bar about its length."""

from collections.abc import Sequence
from itertools import pairwise
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import Hand, HeatDemand, Mm0, Model, Step, Turns, shown
from varistrat.core.bars.off_plan import OffPlan, around
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_ZONES, MIN_MM

SHEAR_PER_HEAT = 1.25
SHEAR_CARE = 3.5
SHEAR_STOP = 5.0
"""Skin shear (indicative, laminates at 1050-1200 C): per heat; warn; likely to tear."""


LEAST_TURNS = 0.25
"""A twist of less shows no turn of its own on a blade."""

COLD_SHUT = Code("cold_shut", "bar", ("care",), "Sharp corners will fold over into cold shuts along the thread.")
TWIST_TEARS = Code("twist_tears", "bar", ("care", "stop"), {"care": "Near where laminates begin to tear.", "stop": "The skin will tear."})
TWIST_HEATS = Code("twist_heats", "bar", ("note",), "One turn in {lead:.1f} mm, in {heats} even {noun} or more.")
TWIST_NOTHING = Code("twist_nothing", "bar", ("note",), "No turns: the bar is only rounded.")


class Zone(Model):
    """A length of the bar with turns of its own."""

    from_: Mm0 = Field(alias="from", **shown("From", "mm"))
    to: Mm0 = Field(**shown("To", "mm"))
    turns: Turns = Field(**shown("Turns", "turns"))
    hand: Hand | None = Field(None, **shown("Hand", "", "as the step if left out"))


class Twist(Step):
    """The bar is heated and wrung; each slice turns on its own by phi(x).

    Forward: section to a round of equal area (section.py), then turned by +phi(x) about
    +x, phi = phase + hand 2 pi times the turns up to x. Inverse: -phi, then the section map.
    |det J| = 1; nothing is lost. Derived in docs/physics.md#twist.
    """

    kind: Literal["twist"] = "twist"
    title: ClassVar[str] = "Twist"
    undoes_surface: ClassVar[bool] = True
    blurb: ClassVar[str] = "Wring it about its length."
    fire = "twist"
    hand: Hand = Field("right", **shown("Hand", "", "right: like an ordinary screw thread"))
    turns: Turns | None = Field(None, **shown("Turns", "turns", "over the whole length"))
    zones: Annotated[list[Zone], Field(min_length=1, max_length=MAX_ZONES)] | None = Field(
        None, **shown("Zones", "", "turns in parts of the bar only", quiet=True)
    )
    phase: Annotated[float, Field(ge=-180, le=180)] = Field(
        0.0, **shown("Turned when dressed", "deg", "how far about its length it lies turned when it is dressed again", quiet=True)
    )

    def _ramps(self, length: float) -> list[tuple[float, float, float]]:
        """(from, to, signed turns) of each stretch, mm of this bar."""
        if self.turns is not None and self.zones is not None:
            raise InputError.at("zones", "both turns and zones are given", "keep one of them")
        if self.turns is not None:
            return [(0.0, length, self.turns if self.hand == "right" else -self.turns)]
        if self.zones is None:
            raise InputError.at("turns", "a twist of nothing: neither turns nor zones are given", "give the turns over the whole length")
        ramps = []
        for i, zone in enumerate(self.zones):
            if zone.to < zone.from_ + MIN_MM:
                raise InputError.at(
                    f"zones[{i}].to",
                    f"the zone ends at {zone.to:g} mm, not past its beginning at {zone.from_:g}",
                    "let it end further along",
                )
            if zone.to > length * (1 + 1e-9):
                raise InputError.at(
                    f"zones[{i}].to", f"the zone ends at {zone.to:g} mm, past the bar's {length:.4g} mm", "keep it on the bar"
                )
            ramps.append((zone.from_, zone.to, zone.turns if (zone.hand or self.hand) == "right" else -zone.turns))
        return ramps

    def size(self, before: Bar) -> Change:
        self._ramps(before.length)
        after = Bar(before.length, Section.of_area("round", before.section.area))
        groove = before.section.circumradius - before.section.inradius
        lost = before.volume - before.peeled(min(groove / 2, before.section.inradius * 0.99)).volume if groove > 1e-9 else 0.0
        estimates = {"thread_depth": groove, "thread_grind": lost} if groove > 1e-9 else {}
        return Change(after, estimates=estimates)

    def length_before(self, length: float, before: Bar) -> float:
        # as long as its zones reach, whatever is wanted of it
        return max(length, *(z.to for z in self.zones)) if self.zones else length

    def phi(self, x: Array, length: float) -> Array:
        """Angle in radians by which the slice at x is turned, right-handed about +x."""
        total = np.full_like(x, np.deg2rad(self.phase))
        for start, end, turns in self._ramps(length):
            rate = 2 * np.pi * turns / (end - start)
            total += (np.clip(x, start, end) - start) * float(rate) if (start, end) != (0.0, length) else x * float(rate)
        return total

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        u, a = p.shares(after.section)
        p.put_shares(before.section, u, a - self.phi(p.x, before.length))

    def tightest(self, length: float) -> tuple[float, float]:
        """(turns per mm where it is tightest, shear times radius in all), ignoring sign cancelling."""
        marks = sorted({m for r in self._ramps(length) for m in r[:2]})
        best = 0.0
        for a, b in pairwise(marks):
            rate = sum(t / (end - start) for start, end, t in self._ramps(length) if start < b and end > a)
            best = max(best, abs(rate))
        return best, 2 * np.pi * best

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        found: list[Finding] = []
        turns_per_mm, per_mm = self.tightest(before.length)
        shear = after.width / 2 * per_mm
        depth = before.section.circumradius - before.section.inradius
        if before.section.form in ("rectangle", "diamond"):
            cost = 100 * (1 - (1 - depth / 2 / before.section.inradius) ** 2)
            found.append(
                COLD_SHUT.found(
                    f"The corners stand {depth:.2f} mm proud of the flats. Grinding half of that off all round costs about "
                    f"{cost:.0f} % of the bar. The pattern itself is the same either way.",
                    "Knock the corners back to an octagon or a round before twisting.",
                    field="hand",
                    value=depth,
                    limit=0.05 * before.width,
                    unit="mm",
                )
            )
        heats = max(1, int(np.ceil(shear / SHEAR_PER_HEAT)))
        if shear > SHEAR_CARE:
            stop = shear > SHEAR_STOP
            fewer = SHEAR_CARE / shear * turns_per_mm
            found.append(
                TWIST_TEARS.found(
                    f"The skin shears {shear:.1f} in all, {shear / heats:.1f} in each of {heats} heats; above {SHEAR_CARE:g} welds "
                    f"open, above {SHEAR_STOP:g} few survive. Indicative.",
                    f"Stay under one turn in {1 / fewer:.0f} mm, or twist it thinner." if fewer else "Twist less.",
                    grade="stop" if stop else "care",
                    field="turns",
                    value=shear,
                    limit=SHEAR_STOP if stop else SHEAR_CARE,
                )
            )
        elif turns_per_mm > 0:
            found.append(
                TWIST_HEATS.found(
                    f"The skin shears {shear:.2f} in all, {shear / heats:.2f} a heat; about {SHEAR_PER_HEAT:g} a heat is safe above 1050 "
                    "C. "
                    "Indicative. A cold spot twists less: heat evenly.",
                    "Turning the bar end for end does not change its hand; an opposed bar must be twisted opposed.",
                    lead=1 / turns_per_mm,
                    heats=heats,
                    noun="heat" if heats == 1 else "heats",
                    field="turns",
                    value=shear,
                    limit=SHEAR_CARE,
                )
            )
        else:
            found.append(TWIST_NOTHING.found("The twist has 0 turns.", "Give it turns, or take the step out.", field="turns", value=0.0))
        return found

    def off_plan(self) -> Sequence[OffPlan]:
        if self.turns is None or self.turns < LEAST_TURNS:
            return ()
        # more than a turn off, over the whole bar, is another twist
        reach = min(0.12, 1.0 / self.turns)
        more, less = (f"twisted {{much}} {word} than planned: {{made}} turns" for word in ("more", "less"))
        turned = "turned {much} right-handed about its length", "turned {much} left-handed about its length"
        return (
            OffPlan("turns", "Turns", "turns", self.turns, -reach, reach, "winding", more, less, share=True),
            # the layers of a pile look alike from above and from below: half a turn is the same picture
            OffPlan("phase", "Turned about its length", "deg", 0.0, -90.0, 90.0, "winding", *turned),
        )

    def made_off_plan(self, off: OffPlan, change: float, at: float) -> "Twist":
        if off.name == "phase":
            return self.model_copy(update={"phase": around(self.phase + change)})
        made = off.made(change)
        turned = 360 * (made - off.planned) * at * (1 if self.hand == "right" else -1)
        return self.model_copy(update={"turns": made, "phase": around(self.phase - turned)})

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        return line.forged(before, after).askew()

    @classmethod
    def opposite(cls, step: dict[str, Any]) -> dict[str, Any]:
        other = {"right": "left", "left": "right"}
        step = {**step, "hand": other[step.get("hand", "right")]}
        if step.get("zones"):
            step["zones"] = [{**z, **({"hand": other[z["hand"]]} if z.get("hand") else {})} for z in step["zones"]]
        return {**step, "phase": -step["phase"]} if step.get("phase") else step

    def heat_demand(self, before: Bar, after: Bar) -> HeatDemand:
        return HeatDemand(shear=after.width / 2 * self.tightest(before.length)[1])

    def instruction(self, before: Bar, after: Bar) -> str:
        turns_per_mm, _ = self.tightest(before.length)
        total = sum(abs(t) for *_, t in self._ramps(before.length))
        pitch = f", at the tightest one in {1 / turns_per_mm:.0f} mm" if turns_per_mm else ""
        return (
            f"Heat evenly to yellow and twist {self.hand}-hand, {total:.4g} turns in all{pitch}. Clamp the bar well, stand clear of the "
            f"wrench, straighten it warm; dress it to {after.width:.4g} mm round."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        # one turn in five widths shears the skin about 0.7: safe in one heat
        return {"hand": "right", "turns": max(1.0, float(round(bar.length / (5 * max(bar.width, bar.thickness)))))}

    def brief(self) -> str:
        return f"{self.hand}, {self.turns if self.turns is not None else sum(z.turns for z in self.zones or []):.4g}"
