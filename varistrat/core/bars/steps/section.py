"""Forging a bar to another section: square, octagon, round, diamond."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.layer_line import LayerLine
from varistrat.core.bars.model import ForgingStep, Mm, shown
from varistrat.core.bars.points import Points
from varistrat.core.bars.section import Form, Section
from varistrat.core.bars.steps._forge import pull_forged
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding

BIAS = Code("bias", "bar", ("note",), "Squaring on the corners turns the layers onto the bias.")


class SectionStep(ForgingStep):
    """The corners are knocked back (or brought up); the centre hardly moves.

    Forward and inverse: the area share and the angle share of each point are kept
    (bars/section.py), x' = x L'/L with L' = V/A'. Derived in docs/physics.md#section.
    """

    kind: Literal["section"] = "section"
    title: ClassVar[str] = "Re-section"
    blurb: ClassVar[str] = "Forge it square, octagon, round or diamond."
    shapes: ClassVar[bool] = False
    sized: ClassVar[bool] = True
    fire = "forge"
    form: Literal["square", "rectangle", "octagon", "round", "diamond"] = Field(**shown("To a"))
    width: Mm | None = Field(None, **shown("Width", "mm", "octagon: across flats; diamond: corner to corner; empty keeps the area"))
    thickness: Mm | None = Field(None, **shown("Thickness", "mm", "as the width if left empty"))

    def size(self, before: Bar) -> Change:
        to: Form = "rectangle" if self.form == "square" else self.form
        if self.width is None:
            if self.thickness is not None:
                raise InputError.at("width", "the thickness is given without the width", "give both, or neither to keep the area")
            aspect = before.width / before.thickness if self.form == "rectangle" else 1.0
            return Change(before.with_section(Section.of_area(to, before.section.area, aspect)))
        thickness = self.width if self.thickness is None else self.thickness
        section = Section(to, self.width, thickness)
        if self.form == "square" and not section.equal:
            raise InputError.at(
                "thickness", f"a square cannot be {self.width:g} x {thickness:g} mm", 'use form "rectangle", or leave the thickness out'
            )
        return Change(before.with_section(section))

    def as_done(self, before: Bar, width: float, thickness: float) -> "SectionStep":
        # round, square, octagon: as wide as thick, whatever calipers say of either
        if self.form in ("square", "round", "octagon") and width != thickness:
            width = thickness = (width + thickness) / 2
        return self.model_copy(update={"width": width, "thickness": thickness})

    def length_before(self, length: float, before: Bar) -> float:
        return length * self.size(before).after.section.area / before.section.area

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        pull_forged(p, before, after)

    def checks(self, before: Bar, after: Bar) -> list[Finding]:
        if before.section.form == "diamond" and after.section.form == "rectangle":
            return [
                BIAS.found(
                    "The old corners become faces: layers that lay flat now run from corner to corner.",
                    "Work all four corners evenly, a little each round, or the section turns into a lozenge.",
                    field="form",
                )
            ]
        return []

    def through(self, line: LayerLine, before: Bar, after: Bar) -> LayerLine:
        moved = line.forged(before, after)
        return moved.askew() if "diamond" in (before.section.form, after.section.form) else moved

    def instruction(self, before: Bar, after: Bar) -> str:
        size = f"{after.width:.4g} mm" if after.section.equal else f"{after.width:.4g} x {after.thickness:.4g} mm"
        across = {"octagon": " across flats", "diamond": " corner to corner", "round": " across"}.get(self.form, "")
        return (
            f"Forge the {before.form_word} bar to {'an' if self.form == 'octagon' else 'a'} {self.form}, {size}{across}; about "
            f"{after.length:.0f} mm long."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"form": "square" if bar.section.form != "rectangle" else "octagon"}

    def brief(self) -> str:
        return f"to {self.form}"
