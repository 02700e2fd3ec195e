"""Where a blade lies in its bar: turning points of the blade into points of the bar.

Sides: `tip_end` end = the tip points to the bar's +x, `edge_side` front = the edge to its -y,
`right_face` top = the right face to its +z. Steel is turned, never mirrored, so any two
decide the third; one left out follows from the others (edge front, right face top if both are
free). x, y: where the blade's origin (heel, y = 0) lies in the bar's frame; left out, the heel
(or the tang) is flush with the bar's end and the blade lies midway across. angle: about the bar's +z;
steeper than LAID_ACROSS the blade lies across the bar, as an edge at the end of a tool does.

A blade that is forged takes the bar's whole width, and the steel it needs: from the bar's own end at the
tip, or, when x is given, from the heel's place on. See forging.py.
"""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.bar import Bar
from varistrat.core.bars.points import Array
from varistrat.core.blade.forging import ForgeMap, Stock
from varistrat.core.blade.geometry import Faces, Geometry
from varistrat.core.blade.model import Place
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MIN_MM

LAID_ACROSS = 60.0
"""Degrees."""


BLADE_OFF_BAR = Code("blade_off_bar", "bar", ("stop",), "The blade runs off the {where} by {by:.1f} mm.")
BAR_TOO_SHORT = Code("bar_too_short", "bar", ("stop",), "The bar is {short:.0f} mm too short for this blade.")
STRETCHED = Code("stretched", "bar", ("care",), "The steel is drawn to {most:.1f} times its length {at:.0f} mm from the heel.")


def _across(geometry: Geometry, bar: Bar, signs: tuple[int, int], angle: float) -> tuple[float, float]:
    """Where the heel lies of a blade laid across its bar: midway across, flush with the end that its edge side is nearer to."""
    low, high = geometry.curves.span()
    a = np.deg2rad(angle)
    corners = np.array([[x * signs[0], y * signs[1]] for x in (0.0, geometry.length) for y in (low, high)])
    turned = corners @ np.array([[np.cos(a), np.sin(a)], [-np.sin(a), np.cos(a)]])
    edge_first = turned[::2, 0].mean() <= turned[1::2, 0].mean()
    x = -turned[:, 0].min() if edge_first else bar.length - turned[:, 0].max()
    return float(x), float(-(turned[:, 1].min() + turned[:, 1].max()) / 2)


@dataclass(frozen=True)
class Placed:
    """A blade laid on its bar."""

    geometry: Geometry
    bar: Bar
    signs: tuple[int, int, int]
    x: float
    y: float
    angle: float
    forge_map: ForgeMap | None = None
    core: float | None = None
    """Share of the bar's thickness its core takes about the middle, where it has one."""

    @cached_property
    def mark(self) -> str:
        """All that says which point of the bar a point of the blade is, as text; the forge map follows from it.

        How long and wide a bar is does not matter to a blade that lies wholly within it.
        """
        bar = self.bar.thickness if self._within else self.bar
        lies = (self.geometry.bar_thickness, bar, self.signs, self.x, self.y, self.angle, self.core)
        return f"{self.geometry.blade.model_dump_json()}|{lies}"

    @property
    def _within(self) -> bool:
        """Whether neither the bar's ends nor its sides cut the blade or have a say in where it lies."""
        if self.forge_map is not None:
            return False
        low, high = self.geometry.curves.span()
        x, y, _ = self.to_bar(np.array([0.0, 0.0, 1.0, 1.0]) * self.geometry.length, np.array([low, high, low, high]), np.zeros(4))
        return bool(x.min() >= 0 and x.max() <= self.bar.length and np.abs(y).max() <= self.bar.width / 2)

    @classmethod
    def of(cls, geometry: Geometry, bar: Bar, core: float | None = None) -> "Placed":
        """Raises InputError when the blade cannot lie so."""
        place = geometry.blade.place
        if bar.section.form != "rectangle":
            raise InputError.at(
                "recipe", f"a blade is cut from a rectangular bar, this one ends {bar.form_word}", "square or draw it flat at the end"
            )
        sx, sy, sz = _signs(place)
        low, high = geometry.curves.span()
        tang = geometry.blade.tang.length if geometry.blade.tang else 0.0
        usual = (tang if sx > 0 else bar.length - tang), -sy * (low + high) / 2
        if abs(place.angle) > LAID_ACROSS and abs(place.angle) < 180 - LAID_ACROSS:
            usual = _across(geometry, bar, (sx, sy), place.angle)
        x = place.x if place.x is not None else usual[0]
        y = place.y if place.y is not None else usual[1]
        forged = None
        if geometry.blade.forging.share > 0:
            if abs(place.angle) > 1e-9:
                raise InputError.at("place.angle", "a blade forged to shape lies straight along its bar", "set the angle to 0")
            heel = x if sx > 0 else bar.length - x
            stock = Stock(bar.length, bar.width, bar.thickness, heel, -bar.width / 2 - sy * y, place.x is not None)
            if not 0 <= heel < bar.length:
                raise InputError.at("place.x", f"the heel lies off the bar, which is {bar.length:.0f} mm long", "put it on the bar")
            forged = ForgeMap(geometry, stock)
        return cls(geometry, bar, (sx, sy, sz), x, y, float(np.deg2rad(place.angle)), forged, core)

    def to_bar(self, x: Array, y: Array, z: Array) -> tuple[Array, Array, Array]:
        """Blade points (z already relative to the bar's own middle) as bar points."""
        sx, sy, sz = self.signs
        cos, sin = float(np.cos(self.angle)), float(np.sin(self.angle))
        bx, by = x * sx, y * sy
        return self.x + bx * cos - by * sin, self.y + bx * sin + by * cos, z * sz

    def inside_bar(self, x: Array, h: Array, z: Array, faces: Faces) -> tuple[Array, Array, Array]:
        """Blade points at station x, height h above the edge and side z, as points of the bar.

        The layers have moved by faces.layers and the forged blade is faces.forged thick where the
        bar is T: Z = T (z - m) / t_f. Where the core's share differs from the planned one, core and clad are each
        stretched evenly to fit.
        """
        zeta = (z - faces.layers) / np.maximum(faces.forged, MIN_MM)
        if self.core is not None and self._core_moves:
            zeta = _restretched(zeta, self.core, self.geometry.core_share(self.core, x, faces.forged))
        x, y, bz = np.broadcast_arrays(x, self.geometry.curves.edge(x) + h, zeta * self.bar.thickness)
        if self.forge_map is None:
            return self.to_bar(x, y, bz)
        sx, sy, sz = self.signs
        xi, eta = self.forge_map.bar_point(x, y)
        return (xi if sx > 0 else self.bar.length - xi), sy * (eta - self.bar.width / 2), bz * sz

    @property
    def _core_moves(self) -> bool:
        errors = self.geometry.blade.errors
        return errors.core_share != 0 or errors.flow != 0

    def checks(self) -> list[Finding]:
        """Steel enough, and not stretched too far."""
        return self._forging_checks(self.forge_map) if self.forge_map else self._cutting_checks()

    def _forging_checks(self, forged: ForgeMap) -> list[Finding]:
        found = []
        used = self.bar.width * self.bar.thickness
        if forged.short > 1.0:
            found.append(
                BAR_TOO_SHORT.found(
                    f"Blade and tang as forged need {forged.short / 1000:.1f} cm3 more than there is up to the bar's end.",
                    "Start with more steel, forge a smaller blade, or one with less to grind off.",
                    short=forged.short / used,
                    field="outline",
                    value=forged.short / used,
                    limit=0.0,
                    unit="mm",
                )
            )
        x = np.linspace(0, self.geometry.length, 121)
        curves = self.geometry.curves
        over = max(float(forged.outside(x, y).max()) for y in (curves.edge(x), curves.spine(x)))
        if over > 0.05:
            found.append(_off_bar(over, "forged blank", self.bar, self.geometry))
        most, at = forged.stretch()
        limit = self.geometry.blade.forging.stretch_most
        if most > limit:
            found.append(
                STRETCHED.found(
                    (
                        f"Beyond {limit:g} times the pattern smears and layers thin out and part. A point that is only drawn out takes "
                        "its tip "
                        "from very little steel."
                    ),
                    f"Cut the bar's end at an angle first: a point cut of about {self.bar.width:.0f} to {1.5 * self.bar.width:.0f} mm.",
                    most=most,
                    at=at,
                    field="forging.point_cut.length",
                    value=most,
                    limit=limit,
                    unit="",
                )
            )
        return found

    def _cutting_checks(self) -> list[Finding]:
        geometry = self.geometry
        x = np.linspace(0, geometry.length, 121)
        rims = [(x, geometry.curves.edge(x)), (x, geometry.curves.spine(x))]
        rims += [(t[:, 0], t[:, 1]) for t in (geometry.tang(),) if t is not None]
        worst, name = 0.0, ""
        for at, y in rims:
            bx, by, _ = self.to_bar(at, y, np.zeros_like(at))
            over = {
                "start": float((-bx).max()),
                "far end": float((bx - self.bar.length).max()),
                "front": float((-by).max() - self.bar.width / 2),
                "back": float(by.max() - self.bar.width / 2),
            }
            side = max(over, key=lambda k: over[k])
            if over[side] > worst:
                worst, name = over[side], side
        if worst <= 1e-6:
            return []
        return [_off_bar(worst, f"{name} of its bar", self.bar, geometry)]


def _off_bar(by: float, where: str, bar: Bar, geometry: Geometry) -> Finding:
    return BLADE_OFF_BAR.found(
        f"The bar is {bar.length:.0f} x {bar.width:.4g} mm; the blade {geometry.length:.4g} mm long and "
        f"{np.ptp(geometry.curves.span()):.4g} mm high.",
        "Start with more steel, draw it wider or longer, or make the blade smaller.",
        where=where,
        by=by,
        field="outline",
        value=by,
        limit=0.0,
        unit="mm",
    )


def _restretched(zeta: Array, planned: float, share: Array) -> Array:
    """Heights in shares of the thickness, -1/2 to 1/2, carried from a blade whose core takes `share` to one where it takes `planned`."""
    half = share / 2
    inside = np.abs(zeta) <= half
    outer = np.sign(zeta) * (0.5 - (0.5 - np.abs(zeta)) * ((1 - planned) / (1 - share)))
    return np.where(inside, zeta * (planned / share), outer)


def _signs(place: Place) -> tuple[int, int, int]:
    sx = {"end": 1, "start": -1, None: 0}[place.tip_end]
    sy = {"front": 1, "back": -1, None: 0}[place.edge_side]
    sz = {"top": 1, "bottom": -1, None: 0}[place.right_face]
    if not sx:
        sy, sz = sy or 1, sz or 1
        sx = sy * sz
    elif not sy:
        sz = sz or 1
        sy = sx * sz
    elif not sz:
        sz = sx * sy
    if sx * sy * sz != 1:
        raise InputError.at(
            "place.right_face",
            "edge, tip and right face so placed would mirror the steel",
            "leave one of the three out; it follows from the others",
        )
    return sx, sy, sz
