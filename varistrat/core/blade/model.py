"""The blade file `varistrat.blade/1`: models and reading it safely."""

from itertools import pairwise
from typing import Annotated, Any, Final, Literal

from pydantic import Discriminator, Field, Tag, model_validator

from varistrat.core.bars.model import Mm, Mm0, Model, Note, SteelKey, shown
from varistrat.core.bars.recipe import Recipe
from varistrat.core.errors import InputError
from varistrat.core.limits import MAX_MM, MAX_OUTLINE_POINTS
from varistrat.core.reading import check_format, parse
from varistrat.core.shop import AS_SHIPS, ShopData

FORMAT: Final = "varistrat.blade/1"

Number = Annotated[float, Field(ge=-MAX_MM, le=MAX_MM)]
Pair = Annotated[list[Number], Field(min_length=2, max_length=2)]
Curve = Annotated[list[Pair], Field(min_length=2, max_length=MAX_OUTLINE_POINTS)]
Along = Number | Annotated[list[Pair], Field(min_length=1, max_length=1000)]
"""A number, or [[x, value]] along the blade: linear between, held beyond."""
Shape = Literal["drop_point", "straight_back", "sheepfoot", "leaf", "skew", "clipped", "hook", "end_edge"]
Share = Annotated[float, Field(ge=0, le=1)]


class Choil(Model):
    """A notch at the heel's edge, so that a stone runs clean off the edge: a half ellipse lying along it."""

    length: Mm = Field(**shown("Choil length", "mm"))
    depth: Mm = Field(**shown("Choil depth", "mm"))


class BuiltIn(Model):
    """An outline by name: see outline.py for what each shape does with its numbers."""

    shape: Shape = Field(**shown("Shape"))
    length: Mm = Field(**shown("Length", "mm", "heel to tip"))
    height: Mm = Field(**shown("Height", "mm", "at the heel, edge to spine"))
    point: Annotated[float, Field(ge=0.05, le=0.95)] = Field(0.4, **shown("Point", "share", "share of the length taken by the point"))
    tip: Annotated[float, Field(ge=-0.6, le=1)] | None = Field(
        None, **shown("Tip lies at", "share", "of the height, above the heel's edge; empty: as the shape has it")
    )
    belly: Annotated[float, Field(ge=-0.3, le=0.3)] = Field(
        0.0, **shown("Belly", "share", "of the height the edge hangs below its straight line")
    )
    clip: Annotated[float, Field(ge=0.05, le=0.95)] | None = Field(
        None, **shown("Clip", "share", "share of the length over which the spine comes down; empty: as the shape has it")
    )
    heel: Mm0 = Field(0.0, **shown("Heel rounded", "mm", "radius of the corner between edge and heel"))
    choil: Choil | None = Field(None, **shown("Choil"))


class Drawn(Model):
    """An outline by its two curves, polylines sharing their ends in x."""

    edge: Curve
    spine: Curve

    @model_validator(mode="after")
    def _sound(self) -> "Drawn":
        for name, curve in (("edge", self.edge), ("spine", self.spine)):
            if any(b[0] <= a[0] for a, b in pairwise(curve)):
                raise ValueError(f"the {name} does not run steadily from heel to tip; give its points with growing x")
        if abs(self.edge[0][0] - self.spine[0][0]) > 1e-6 or abs(self.edge[-1][0] - self.spine[-1][0]) > 1e-6:
            raise ValueError("edge and spine begin or end at different x; let them share both ends")
        if abs(self.edge[0][0]) > 1e-6:
            raise ValueError(f"the outline begins at x = {self.edge[0][0]:g}; let the heel be at x = 0")
        return self


Outline = Annotated[
    Annotated[BuiltIn, Tag("built_in")] | Annotated[Drawn, Tag("drawn")],
    Discriminator(lambda v: "drawn" if (isinstance(v, dict) and "edge" in v) or isinstance(v, Drawn) else "built_in"),
]


class Taper(Model):
    """Thickness at heel, middle and tip, linear between."""

    heel: Mm0 = Field(**shown("Heel", "mm"))
    mid: Mm0 = Field(**shown("Middle", "mm"))
    tip: Mm0 = Field(**shown("Tip", "mm"))

    @property
    def most(self) -> float:
        """The greatest of the three, mm."""
        return max(self.heel, self.mid, self.tip)


class Grind(Model):
    """One side's grind, given as the full thickness if both sides were ground so."""

    kind: Literal["flat", "flat_convex", "convex", "hollow"] = Field("flat", **shown("Grind"))
    height: Mm | None = Field(None, **shown("Bevel height", "mm", "from the edge; empty: up to the spine"))
    edge_thickness: Mm0 = Field(**shown("Edge thickness", "mm", "whole edge, before sharpening"))
    flat_edge_thickness: Mm0 | None = Field(None, **shown("Flat aims at", "mm", "edge thickness the flat would reach"))
    band: Mm | None = Field(None, **shown("Convex band", "mm"))
    wheel_radius: Mm | None = Field(None, **shown("Wheel radius", "mm"))

    @model_validator(mode="after")
    def _complete(self) -> "Grind":
        needs = {"flat_convex": ("flat_edge_thickness", "band"), "hollow": ("wheel_radius",)}.get(self.kind, ())
        for field in needs:
            if getattr(self, field) is None:
                raise ValueError(f"a {self.kind} grind needs {field}; give it in mm")
        if self.flat_edge_thickness is not None and self.flat_edge_thickness < self.edge_thickness:
            raise ValueError("flat_edge_thickness is under edge_thickness; the rounding can only make the edge thinner")
        return self


Sides = Literal["both", "right", "left"]


class Swedge(Model):
    """A bevel along the spine, from the tip back; `thickness`: what it leaves at the spine, whole."""

    length: Mm = Field(**shown("Swedge length", "mm", "back from the tip"))
    height: Mm = Field(**shown("Swedge height", "mm", "down from the spine"))
    thickness: Mm0 = Field(**shown("Spine at the swedge", "mm"))
    sides: Sides = "both"


class Fuller(Model):
    """A groove ground along the face with a wheel: a hollow `width` high and `depth` deep on each of its sides."""

    start: Mm0 = Field(**shown("Fuller from", "mm", "from the heel"))
    end: Mm = Field(**shown("Fuller to", "mm", "from the heel"))
    middle: Mm = Field(**shown("Middle of the fuller", "mm", "above the edge"))
    width: Mm = Field(**shown("Fuller width", "mm"))
    depth: Mm = Field(**shown("Fuller depth", "mm", "each side"))
    sides: Sides = "both"

    @model_validator(mode="after")
    def _runs(self) -> "Fuller":
        if self.end <= self.start:
            raise ValueError("the fuller ends before it starts; let `end` lie farther from the heel")
        return self


class Grinds(Model):
    """How both sides are ground, and what is cut into the spine and the flats."""

    right: Grind
    left: Grind
    share_right: Share = Field(0.5, **shown("Taken off the right", "share", "of all that is ground off"))
    ricasso: Mm0 = Field(0.0, **shown("Ricasso", "mm", "left full thick, from the heel"))
    plunge: Mm0 = Field(0.0, **shown("Plunge", "mm", "length over which the bevel sweeps in"))
    swedge: Swedge | None = None
    fuller: Fuller | None = None


class PointCut(Model):
    """A corner sawn off the bar before the point is forged, so that layers follow one side of it."""

    side: Literal["none", "spine", "edge"] = "none"
    length: Mm0 = 0.0


class Forging(Model):
    """How much of the shape is forged, and how thick the forged blank is."""

    share: Share = Field(0.0, **shown("Forged share", "share", "0: cut from the bar; 1: forged to shape"))
    bar_thickness: Mm | None = Field(None, **shown("Bar thickness", "mm", "before grinding"))
    allowance: Mm0 | None = Field(None, **shown("Grinding allowance", "mm", "per side, over the finished faces"))
    edge_thickness: Mm0 | Taper | None = None
    spine_thickness: Mm0 | Taper | None = None
    skin: Mm0 = Field(0.0, **shown("Soft skin, ground off each side", "mm"))
    point_cut: PointCut = PointCut()
    stretch_most: Annotated[float, Field(ge=1, le=1000)] = Field(6.0, **shown("Drawn out at most", "times", "before the pattern smears"))

    @model_validator(mode="after")
    def _complete(self) -> "Forging":
        blank = self.edge_thickness is not None and self.spine_thickness is not None
        if self.share > 0 and self.allowance is None and not blank:
            raise ValueError("a forged blade needs its allowance; give allowance, or edge_thickness and spine_thickness of the blank")
        if self.allowance is not None and (self.edge_thickness is not None or self.spine_thickness is not None):
            raise ValueError("both allowance and blank thicknesses are given; keep one of them")
        return self


class Errors(Model):
    """How far the work is from true, each a number or [[x, value]] along the blade."""

    core_offset: Along = Field(0.0, **shown("Core offset", "share", "of the local thickness, + right"))
    dip: Along = Field(0.0, **shown("Dip", "mm"))
    cup: Along = Field(0.0, **shown("Cup", "mm", "+: middle bulges right"))
    twist: Along = Field(0.0, **shown("Twist", "deg", "+: right-handed about the length"))
    uneven: Along = Field(0.0, **shown("Uneven grind", "mm", "more off the right"))
    bow: Number = Field(0.0, **shown("Bow", "mm", "middle of the length lies so far right of its ends; counts as a dip"))
    core_share: Along = Field(0.0, **shown("Core share off by", "share", "of the thickness, more core +"))
    edge: Along = Field(0.0, **shown("Edge thickness off by", "mm", "thicker +, fading out to the bevel's top"))
    flow: Annotated[float, Field(ge=-1, le=1)] = Field(
        0.0, **shown("Clad flows more", "share", "how much less the core thins than the whole when forged; 0.1: a tenth less")
    )


Taken = Annotated[list[Mm0], Field(min_length=3, max_length=3)]


class Correction(Model):
    """Taken off each face after all else: [[x, at the edge, at the spine]], mm, linear between, held beyond."""

    right: list[Taken] = Field([], max_length=1000)
    left: list[Taken] = Field([], max_length=1000)

    @model_validator(mode="after")
    def _in_order(self) -> "Correction":
        for name, rows in (("right", self.right), ("left", self.left)):
            if any(b[0] <= a[0] for a, b in pairwise(rows)):
                raise ValueError(f"the stations of the {name} face do not run from heel to tip; give them with growing x")
        return self


class Tang(Model):
    """Steel behind the heel, as thick as the spine there: straight sides from `width` at the heel to `end_width`, about mid-height."""

    length: Mm = Field(**shown("Tang length", "mm"))
    width: Mm = Field(**shown("Tang at the heel", "mm"))
    end_width: Mm = Field(**shown("Tang at its end", "mm"))


class LaminateCore(Model):
    """The core of a blade given without a recipe: its steel, and its share of the thickness."""

    steel: SteelKey
    share: Annotated[float, Field(gt=0, lt=1)]


class LaminateClad(Model):
    """What lies on both sides of that core."""

    steel: SteelKey


class Laminate(Model):
    """A three-layer blade given without a recipe."""

    core: LaminateCore
    clad: LaminateClad


class Place(Model):
    """Where the blade lies on its bar: see place.py. Sides left out follow from those given."""

    x: Number | None = Field(None, **shown("Heel at", "mm", "along the bar"))
    y: Number | None = Field(None, **shown("Edge at", "mm", "across the bar, from its middle"))
    angle: Annotated[float, Field(ge=-180, le=180)] = Field(0.0, **shown("Askew by", "deg"))
    right_face: Literal["top", "bottom"] | None = None
    edge_side: Literal["front", "back"] | None = None
    tip_end: Literal["end", "start"] | None = None


class Blade(Model):
    """A blade file: outline, thickness, grind, forging to shape, errors, and where it lies on its bar."""

    format: Literal["varistrat.blade/1"] = FORMAT
    name: Annotated[str, Field(max_length=200)] = ""
    note: Note = ""
    outline: Outline
    spine_thickness: Taper
    grind: Grinds
    forging: Forging = Forging()
    errors: Errors = Errors()
    laminate: Laminate | None = None
    recipe: Recipe | None = None
    place: Place = Place()
    tang: Tang | None = None
    correction: Correction = Correction()

    def as_json(self) -> dict[str, Any]:
        """Plain JSON without the defaults; the recipe in its own short form."""
        out: dict[str, Any] = {"format": self.format} | self.model_dump(mode="json", exclude_defaults=True)
        if self.recipe:
            out["recipe"] = self.recipe.as_json()
        return out


def read_blade(data: Any, shop: ShopData = AS_SHIPS) -> Blade:
    """A blade of any known version, complete enough to cut, with the steels of a shop. Raises InputError with paths."""
    if isinstance(data, dict):
        check_format(data, FORMAT)
    blade = parse(Blade, data, shop)
    if blade.laminate and blade.recipe:
        raise InputError.at("laminate", "both a laminate and a recipe are given", "keep one of them")
    if not blade.recipe and blade.forging.bar_thickness is None and blade.forging.share < 1:
        raise InputError.at("forging.bar_thickness", "the bar's thickness is missing", "give it in mm")
    return blade
