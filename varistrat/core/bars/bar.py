"""A bar as the ledger sees it: a length and a section."""

from dataclasses import dataclass, field, replace
from enum import StrEnum

from varistrat.core.bars.section import Section
from varistrat.core.errors import InputError


@dataclass(frozen=True)
class Bar:
    """length in mm; the section holds width and thickness."""

    length: float
    section: Section

    @property
    def width(self) -> float:
        """Whole size along y, mm."""
        return self.section.width

    @property
    def thickness(self) -> float:
        """Whole size along z, mm."""
        return self.section.thickness

    @property
    def volume(self) -> float:
        """Steel in the bar, mm3."""
        return self.length * self.section.area

    def with_section(self, section: Section) -> "Bar":
        """The same steel in another section: the length follows from the volume."""
        return Bar(self.volume / section.area, section)

    def peeled(self, skin: float, field_name: str = "scale") -> "Bar":
        """`skin` mm off every long face; ends kept."""
        section = self.section.peeled(skin)
        if section.width <= 0 or section.thickness <= 0:
            raise InputError.at(
                field_name,
                f"{skin:g} mm off every face leaves nothing of a bar {self.width:.4g} x {self.thickness:.4g} mm",
                f"take less than {self.section.inradius:.4g} mm",
            )
        return replace(self, section=section)

    def need_rectangle(self, doing: str) -> None:
        """Raises InputError, naming what is being done, unless the section is a rectangle."""
        if self.section.form != "rectangle":
            raise InputError.at("", f"{doing} wants a rectangular bar, this one is {self.form_word}", "square it first (section)")

    @property
    def form_word(self) -> str:
        """Its section as a smith calls it: a rectangle of equal sides is square."""
        form = self.section.form
        return "square" if form == "rectangle" and self.section.equal else form


class Loss(StrEnum):
    """Where steel goes at a step; files and screens call them so."""

    SCALE = "scale"
    GRIND = "grind"
    KERF = "kerf"
    ENDS = "ends"
    OFFCUT = "offcut"
    WEDGES = "wedges"
    RELIEF = "relief"
    FIT = "fit"


@dataclass(frozen=True)
class Change:
    """What a step does to the sizes: the bar after, and where the volume went (mm3)."""

    after: Bar
    losses: dict[Loss, float] = field(default_factory=dict)
    gains: dict[str, float] = field(default_factory=dict)
    estimates: dict[str, float] = field(default_factory=dict)
