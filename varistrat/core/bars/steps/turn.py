"""Turning the bar over or on edge on the anvil."""

from dataclasses import replace
from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.layer_line import LayerLine, Normal
from varistrat.core.bars.model import Step, shown
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError
from varistrat.core.findings import Finding


class Turn(Step):
    """The bar is rotated in the hands; no steel moves against other steel.

    Forward: a right-handed rotation about the axis through the bar's middle.
    Inverse: the rotation back. 90 and 270 about x change width and thickness over;
    90 about z changes length and width over.
    """

    kind: Literal["turn"] = "turn"
    title: ClassVar[str] = "Turn"
    blurb: ClassVar[str] = "Turn the bar on edge, on its corner, or over."
    degrees: float = Field(ge=-3600, le=3600, **shown("Turned by", "deg"))
    about: Literal["x", "y", "z"] = Field("x", **shown("About", "", "x: along the bar, y: across, z: up"))

    def size(self, before: Bar) -> Change:
        turn = self.degrees % 360
        section, length = before.section, before.length
        if self.about != "x":
            if turn % 180 == 0:
                return Change(before)
            if self.about == "z" and turn % 90 == 0:
                before.need_rectangle("turning a bar across its length")
                return Change(Bar(section.width, Section("rectangle", length, section.thickness)))
            allowed = "180" if self.about == "y" else "90 or 180"
            raise InputError.at("degrees", f"{self.degrees:g} about {self.about} leaves the bar askew", f"use {allowed}")
        if turn % 90 == 0:
            swap = turn % 180 == 90
            return Change(Bar(length, Section(section.form, section.thickness, section.width) if swap else section))
        if not section.equal:
            raise InputError.at(
                "degrees",
                f"a bar {section.width:.4g} x {section.thickness:.4g} mm turned by {self.degrees:g} does not lie square",
                "use a multiple of 90, or make it square first",
            )
        if section.form == "round" or (section.form == "octagon" and turn % 45 == 0):
            return Change(before)
        if turn % 45 == 0 and section.form == "rectangle":
            return Change(Bar(length, Section("diamond", section.width * np.sqrt(2), section.thickness * np.sqrt(2))))
        if turn % 45 == 0 and section.form == "diamond":
            return Change(Bar(length, Section("rectangle", section.width / np.sqrt(2), section.thickness / np.sqrt(2))))
        raise InputError.at(
            "degrees", f"{self.degrees:g} about x leaves a {before.form_word} bar askew", "use a multiple of 45, or round it first"
        )

    def length_before(self, length: float, before: Bar) -> float:
        if self.about == "z" and self.degrees % 180:
            raise InputError.at(
                "degrees",
                f"turned across, the bar's length is what its width was: {length:.4g} mm of length want a bar {length:.4g} mm wide",
                "make the bar before it so wide, or draw it out afterwards",
            )
        return length

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        angle = np.deg2rad(self.degrees % 360)
        cos, sin = float(np.round(np.cos(angle), 15)), float(np.round(np.sin(angle), 15))
        if self.about == "x":
            if p.has_shares(after.section) and after.section.equal:
                # a turn of a section that is alike both ways only shifts the angle share
                u, a = p.shares(after.section)
                p.put_shares(before.section, u, a - float(angle))
                return
            p.y, p.z = p.y * cos + p.z * sin, p.z * cos - p.y * sin
            return
        along = p.x - after.length / 2
        if self.about == "y":
            along, p.z = along * cos - p.z * sin, along * sin + p.z * cos
        else:
            along, p.y = along * cos + p.y * sin, p.y * cos - along * sin
        p.x = along + before.length / 2

    def upon(self, joints: Joints, before: Bar, after: Bar) -> tuple[Joints, list[Finding]]:
        return joints.turned(self.degrees, self.about), []

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        turn = self.degrees % 360
        if turn % 90 and line.normal in ("y", "z") and self.about == "x":
            return line.askew()
        swaps: dict[str, dict[str, Normal]] = {"x": {"y": "z", "z": "y"}, "z": {"x": "y", "y": "x"}}
        if turn % 180 == 90:
            return replace(line, normal=swaps.get(self.about, {}).get(line.normal, line.normal))
        over = turn == 180 and line.normal != "" and line.normal != self.about
        return line.turned_over() if over else line

    def instruction(self, before: Bar, after: Bar) -> str:
        if self.about == "x":
            return f"Turn the bar {self.degrees:g} degrees about its length."
        if self.degrees % 360 == 90:
            return "Lay the bar across: what was its width is now its length."
        return "Turn the bar end for end" + (", face down." if self.about == "y" else ", same face up.")

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"degrees": 90.0}

    def brief(self) -> str:
        return f"{self.degrees:g}°" + ("" if self.about == "x" else f" about {self.about}")
