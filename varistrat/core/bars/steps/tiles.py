"""Slices cut across a bar at an angle and laid in a row like tiles, cut face up."""

from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import ForgingStep, Mm, Mm0, Otherwise, shown, tidy
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps.restack import JOINT
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_PIECES

SQUAT = 0.04
"""A motif this much out of square is seen at a glance, share."""


FLATTEST = 0.1
"""Angle of a cut under which it runs along the bar for ever, degrees."""


TILE_WASTE = Code("tile_waste", "bar", ("note",), "{share:.0f} % of the bar does not come into the tiles.")
MOTIF_SQUAT = Code("motif_squat", "bar", ("note",), "The motif comes out {word} by {percent:.0f} %.")


ANGLES = range(20, 91)
"""Whole degrees at which tiles are cut; flatter ones fall apart under the saw."""


class Tiles(ForgingStep):
    """Slices at an angle to the long axis, laid in a row cut face up; the wedge ends are trimmed off.

    With X = x' + t cot a, d = t/2 - z': k = floor((X sin a - d cos a)/T), s = X - k T/sin a; a tile turned
    over about y has s -> T/sin a + t cot a - s, d -> t - d. Inverse: x = s cos a + d sin a
    + k (t + kerf)/sin a, z = s sin a - d cos a - T/2: a rotation by a, |det J| = 1.
    L' = n T/sin a - t cot a, W' = W, T' = t. Derived in docs/physics.md#tiles.
    """

    kind: Literal["tiles"] = "tiles"
    cuts: ClassVar[bool] = True
    title: ClassVar[str] = "Tiles"
    blurb: ClassVar[str] = "Slice it at an angle and lay the slices cut face up: end grain on the face."
    fire = "join"
    seams: ClassVar[bool] = True
    joins: ClassVar[bool] = True
    angle: Annotated[float, Field(gt=0, le=90)] = Field(
        **shown("Angle of the cut", "deg", "to the length of the bar: 90 is straight across")
    )
    thickness: Mm = Field(**shown("Tile", "mm", "thickness of a tile"))
    count: Annotated[int, Field(ge=1, le=MAX_PIECES)] = Field(**shown("Tiles"))
    alternate: bool = Field(False, **shown("Every other one turned over", "", "about y: only so does it fit its seat"))
    kerf: Mm0 = Field(0.0, **shown("Saw kerf", "mm"))

    def _angle(self) -> tuple[float, float]:
        if self.angle < FLATTEST:
            raise InputError.at("angle", f"a cut at {self.angle:g} degrees never comes through the bar", f"give {FLATTEST:g} or more")
        a = np.deg2rad(self.angle)
        return float(np.sin(a)), 0.0 if self.angle == 90 else float(np.cos(a))

    def most(self, before: Bar) -> int:
        """How many tiles the bar gives."""
        sin, cos = self._angle()
        return int(np.floor(((before.length - before.thickness * cos / sin) * sin + self.kerf) / (self.thickness + self.kerf) + 1e-9))

    def size(self, before: Bar) -> Change:
        before.need_rectangle("cutting tiles")
        sin, cos = self._angle()
        t, n = self.thickness, self.count
        most = self.most(before)
        if n > most:
            raise InputError.at(
                "count",
                f"{n} tiles want more than the bar's {before.length:.4g} mm; it gives {max(most, 0)}",
                f"cut {most} or fewer" if most > 0 else "make the bar longer, the tiles thinner or the angle steeper",
            )
        length = n * before.thickness / sin - t * cos / sin
        if length <= 0:
            raise InputError.at(
                "angle", f"at {self.angle:g} degrees trimming the wedges leaves nothing", "cut steeper, thinner or more tiles"
            )
        area = before.thickness / sin * before.width
        wedges = t * t * cos / sin * before.width
        kerf = (n - 1) * self.kerf * area
        offcut = before.volume - n * t * area - kerf
        after = Bar(length, Section("rectangle", before.width, t))
        return Change(after, {Loss.WEDGES: wedges, Loss.KERF: kerf, Loss.OFFCUT: max(offcut, 0.0)})

    def reaching(self, length: float, before: Bar) -> "Tiles":
        """With as many tiles as it takes, never fewer than there are."""
        sin, cos = self._angle()
        wanted = int(np.ceil((length + self.thickness * cos / sin) / (before.thickness / sin) - 1e-9))
        if wanted > MAX_PIECES:
            raise InputError.at(
                "count", f"{length:.4g} mm want {wanted} tiles, more than {MAX_PIECES}", "cut them flatter, or from a thicker bar"
            )
        return self if wanted <= self.count else self.model_copy(update={"count": wanted})

    def reaching_further(self, length: float, before: Bar) -> list[Otherwise]:
        """More tiles, or tiles at another angle: steeper ones waste less in the ends of the bar, flatter ones reach further each."""
        found = []
        for angle in ANGLES:
            cut = self.model_copy(update={"angle": float(angle), "count": 1})
            try:
                cut = cut.reaching(length, before)
            except InputError:
                continue
            if cut.count <= cut.most(before):
                same = cut.angle == self.angle
                was, now = f"{self.count}" + ("" if same else f" at {self.angle:g}"), "" if same else f" at {cut.angle:g} degrees"
                found.append(Otherwise(cut, f"Cut {cut.count} tiles{now} instead of {was}.", cut.angle))
        return sorted(found, key=lambda o: (abs(o.value - self.angle), -o.value))

    def length_before(self, length: float, before: Bar) -> float:
        sin, cos = self._angle()
        n = self.reaching(length, before).count
        return (n * (self.thickness + self.kerf) - self.kerf) / sin + before.thickness * cos / sin

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        sin, cos = self._angle()
        t, face = after.thickness, before.thickness / sin
        s = p.x + t * cos / sin
        d = t / 2 - p.z
        across = s * sin
        across -= d * cos
        if p.wants_seams and self.count > 1:
            # signed distance to the nearest joint plane, which stands at the angle to the face
            nearest = np.clip(np.rint(across * (1 / before.thickness)), 1, self.count - 1)
            p.meet(across - nearest * before.thickness)
        k = np.clip(np.floor((across + JOINT) * (1 / before.thickness)), 0, self.count - 1)
        s -= k * face
        if self.alternate:
            over = k % 2
            s += over * (face + t * cos / sin - 2 * s)
            d += over * (t - 2 * d)
        p.x = s * cos + d * sin + k * ((t + self.kerf) / sin)
        p.z = s * sin - d * cos - before.thickness / 2

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        sin, _ = self._angle()
        found = []
        aspect = before.thickness / sin / before.width
        if abs(aspect - 1) > SQUAT:
            word = "stretched" if aspect > 1 else "squat"
            found.append(
                MOTIF_SQUAT.found(
                    (
                        f"The cut face is {before.thickness:.4g} mm / sin {self.angle:g} = {before.thickness / sin:.4g} mm long and "
                        f"{before.width:.4g} mm wide."
                    ),
                    (
                        f"For a square one forge the bar {before.width * sin:.4g} mm high; lower still, in proportion, if the tiled bar is "
                        "drawn longer."
                    ),
                    word=word,
                    percent=100 * abs(aspect - 1),
                    field="angle",
                    value=100 * (aspect - 1),
                    limit=100 * SQUAT,
                    unit="%",
                )
            )
        waste = self.size(before).losses
        share = (waste[Loss.WEDGES] + waste[Loss.KERF] + waste[Loss.OFFCUT]) / before.volume
        found.append(
            TILE_WASTE.found(
                f"Wedge ends {waste[Loss.WEDGES] / 1000:.2f} cm3, kerf {waste[Loss.KERF] / 1000:.2f}, offcut "
                f"{waste[Loss.OFFCUT] / 1000:.2f}; "
                f"the bar gives {self.most(before)} tiles at most.",
                "A flatter cut makes longer tile faces and fewer tiles; a thicker tile wastes more in wedges.",
                share=100 * share,
                field="count",
                value=100 * share,
                unit="%",
            )
        )
        return found

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        return line.askew()

    def instruction(self, before: Bar, after: Bar) -> str:
        turned = " Turn every other one over end for end." if self.alternate else ""
        return (
            f"Saw {self.count} slices {self.thickness:.4g} mm thick at {self.angle:g} degrees to the bar's length. Grind the cut faces, "
            "lay them in a "
            f"row cut face up on a backing strip.{turned} Weld the joints under the press and trim the wedge ends: {after.length:.4g} mm "
            "long."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        step = cls(angle=35.0, thickness=tidy(min(0.4 * bar.thickness, 0.1 * bar.length)), count=1, kerf=tidy(min(1.5, 0.01 * bar.length)))
        most = step.most(bar)
        if most < 1:
            step = step.model_copy(update={"angle": 90.0, "thickness": tidy(0.2 * bar.length)})
            most = step.most(bar)
        return {"angle": step.angle, "thickness": step.thickness, "count": max(1, min(6, most)), "alternate": True, "kerf": step.kerf}

    def brief(self) -> str:
        return f"{self.count} at {self.angle:g}°"
