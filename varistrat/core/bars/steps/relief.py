"""Grooves, chevrons and dimples: layers brought to the face from below, or pushed down from it."""

from collections.abc import Sequence
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change, Loss
from varistrat.core.bars.model import ForgingStep, Mm, SignedMm, shown, tidy
from varistrat.core.bars.off_plan import OffPlan
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.bars.steps._grooves import Grooves, Profile, Shape
from varistrat.core.bars.steps._grooves import Relief as Cutting
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding

RELIEF_PITCH = Code("relief_pitch", "bar", ("note",), "Forged flat, the pitch becomes {pitch:.3g} mm.")
RELIEF_SHARP = Code("relief_sharp", "bar", ("care",), "Sharp-edged grooves fold over into cold shuts when they are forged flat.")


class Relief(ForgingStep):
    """A pattern cut into the faces and forged flat, or pressed into them and ground flat.

    Cut, then forged flat: layers rise under the grooves. z = b + hT (z' + T'/2)/T', b = -T/2 + d_b.
    Pressed, then ground flat: they sink there. z = -T/2 + T (z_p + T/2 - d_b)/(hT), z_p = z' on both
    faces, z' - (T - T')/2 on the top alone. In the plane the column map keeps volume, with
    H(x) the mean of h over y: x' = (T/T') Int_0^x H, y'/W + 1/2 = Int h dy / (W H) for the cut one; for the pressed
    one the same integrals, factor 1, give x and y from x', y'. |det J| = 1. docs/physics.md#relief.
    """

    kind: Literal["relief"] = "relief"
    title: ClassVar[str] = "Grooves and dimples"
    surface_figure: ClassVar[bool] = True
    blurb: ClassVar[str] = "Cut or press grooves, chevrons or dimples: ladders and rings."
    fire = "forge"
    shape: Shape = Field(**shown("Shape"))
    method: Literal["cut_forged", "pressed_ground"] = Field(**shown("Method"))
    profile: Profile = Field(**shown("Groove"))
    pitch: Mm = Field(**shown("Pitch", "mm", "from one centre to the next"))
    groove: Mm = Field(**shown("Width", "mm", "of a groove or dimple at the face"))
    depth: Mm = Field(**shown("Depth", "mm"))
    slant: Annotated[float, Field(ge=-80, le=80)] = Field(
        0.0, **shown("Slant", "deg", "of rungs and chevrons", when="shape=rungs shape=chevrons")
    )
    faces: Literal["top", "both"] = Field("top", **shown("Faces"))
    offset: SignedMm | None = Field(None, **shown("Other face off by", "mm", "along the bar; half a pitch if left out", when="faces=both"))
    array: Literal["square", "staggered"] = Field("square", **shown("Rows", when="shape=dimples"))
    thickness: Mm | None = Field(None, **shown("Thickness after", "mm", "to the bottom of the grooves if left out"))

    def _after(self, before: Bar) -> float:
        deep = self.depth * (2 if self.faces == "both" else 1)
        if deep >= before.thickness:
            raise InputError.at(
                "depth", f"{deep:g} mm of groove leaves nothing of {before.thickness:.4g} mm", "make it shallower, or start thicker"
            )
        return self.thickness if self.thickness is not None else before.thickness - deep

    def cutting(self, before: Bar) -> Cutting:
        """What the grooves or dimples do to this bar; worked out once."""
        return _cutting(self.model_dump_json(exclude={"note", "scale", "uneven"}), before.width, before.thickness)

    def size(self, before: Bar) -> Change:
        before.need_rectangle("cutting a relief")
        if self.groove > self.pitch * (1 + 1e-9):
            raise InputError.at(
                "groove", f"grooves {self.groove:g} mm wide run into one another at a pitch of {self.pitch:g}", "keep width within pitch"
            )
        if self.profile == "round" and self.depth > self.groove / 2 * (1 + 1e-9):
            raise InputError.at(
                "depth", f"a round groove {self.groove:g} mm wide is at most {self.groove / 2:g} mm deep", "make it wider or shallower"
            )
        if self.shape == "chevrons" and not self.slant:
            raise InputError.at("slant", "chevrons without a slant are rungs", "give the slant in degrees, or choose rungs")
        if self.shape == "dimples" and self.slant:
            raise InputError.at("slant", "dimples have no slant", "leave it out")
        thickness = self._after(before)
        cut = self.cutting(before)
        if self.method == "cut_forged":
            kept = before.thickness * before.width * float(cut.run(np.array(before.length)))
            after = Bar(kept / (before.width * thickness), Section("rectangle", before.width, thickness))
            pitch = self.pitch * before.thickness / thickness * float(cut.run(np.array(self.pitch))) / self.pitch
            return Change(after, {Loss.RELIEF: before.volume - kept}, estimates={"pitch": pitch})
        deepest = before.thickness - self.depth * (2 if self.faces == "both" else 1)
        if thickness > deepest * (1 + 1e-9):
            raise InputError.at("thickness", f"at {thickness:g} mm the presses still show", f"grind to {deepest:.4g} mm or less")
        after = Bar(float(cut.back(np.array(before.length))), Section("rectangle", before.width, thickness))
        return Change(after, {Loss.GRIND: before.volume - after.volume}, estimates={"pitch": self.pitch})

    def length_before(self, length: float, before: Bar) -> float:
        cut = self.cutting(before)
        if self.method == "cut_forged":
            return float(cut.back(np.array(length * self._after(before) / before.thickness)))
        return float(cut.run(np.array(length)))

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        cut = self.cutting(before)
        w, t = before.width, before.thickness
        if self.method == "cut_forged":
            p.x = cut.back(p.x * (after.thickness / t))
            if not cut.straight:
                p.y = cut.y_of(p.x, p.y * (1 / w) + 0.5)
            h, low = cut.left(p.x, p.y)
            p.z = low - t / 2 + h * (p.z + after.thickness / 2) * (t / after.thickness)
            return
        h, low = cut.left(p.x, p.y)
        if self.faces == "top":
            p.z -= (t - after.thickness) / 2
        p.z += t / 2 - low
        p.z /= h
        p.z -= t / 2
        if not cut.straight:
            p.y = cut.across(p.x, p.y) / cut.mean(p.x) - w / 2
        p.x = cut.run(p.x)

    def off_plan(self) -> Sequence[OffPlan]:
        what = "dimples" if self.shape == "dimples" else "grooves"
        words = f"{what} {{much}} deeper than planned", f"{what} {{much}} shallower than planned"
        return (OffPlan("depth", f"{what.capitalize()} deeper", "mm", self.depth, -0.3, 0.3, "figure", *words, share=True),)

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        found = []
        pitch = self.size(before).estimates["pitch"]
        if abs(pitch / self.pitch - 1) > 0.005:
            found.append(
                RELIEF_PITCH.found(
                    f"It was {self.pitch:g} mm; the bar grows from {before.length:.4g} to {after.length:.4g} mm.",
                    "Lay it out closer if the figure must come out at a set pitch.",
                    pitch=pitch,
                    field="pitch",
                    value=pitch,
                    unit="mm",
                )
            )
        steep = 2 * self.depth / self.groove
        if self.method == "cut_forged" and (self.profile == "flat" or steep > 1.2):
            found.append(
                RELIEF_SHARP.found(
                    "The walls stand upright." if self.profile == "flat" else f"The walls fall {steep:.1f} mm to a mm.",
                    "Round the bottoms and break the edges, make them wider or shallower, or press and grind instead.",
                    field="profile" if self.profile == "flat" else "depth",
                    value=steep,
                    limit=1.2,
                )
            )
        return found

    @classmethod
    def opposite(cls, step: dict[str, Any]) -> dict[str, Any]:
        return {**step, "slant": -step["slant"]} if step.get("slant") else step

    def instruction(self, before: Bar, after: Bar) -> str:
        what = {"rungs": "grooves across the bar", "chevrons": "chevrons", "dimples": "dimples"}[self.shape]
        where = "both faces" if self.faces == "both" else "the top face"
        size = f"{self.groove:.4g} mm wide and {self.depth:.4g} mm deep, one every {self.pitch:.4g} mm"
        if self.method == "cut_forged":
            return (
                f"Cut {what} into {where}, {size}. Clean them out, heat evenly and forge flat to {after.thickness:.4g} mm; about "
                f"{after.length:.0f} mm long."
            )
        return f"Hot, press {what} into {where}, {size}. Let it cool slowly and grind flat to {after.thickness:.4g} mm. Respirator on."

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        pitch = min(0.4 * bar.width, 0.25 * bar.length)
        depth = min(0.3 * bar.thickness, 0.25 * pitch)
        return {
            "shape": "rungs",
            "method": "cut_forged",
            "profile": "round",
            "pitch": tidy(pitch),
            "groove": tidy(0.6 * pitch),
            "depth": tidy(depth),
        }

    def brief(self) -> str:
        return self.shape


@lru_cache(maxsize=128)
def _cutting(step_json: str, width: float, thickness: float) -> Cutting:
    step = Relief.model_validate_json(step_json)

    def face(offset: float) -> Grooves:
        slant = float(np.tan(np.deg2rad(step.slant)))
        return Grooves(
            step.shape, step.profile, step.pitch, step.groove, step.depth, slant, step.array == "staggered", step.pitch / 2 + offset, width
        )

    other = step.offset if step.offset is not None else step.pitch / 2
    return Cutting(face(0.0), face(other) if step.faces == "both" else None, thickness)
