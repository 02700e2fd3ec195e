"""A blade with a flat core, written so that its core line is cheap to work out for thousands of errors.

Right: core shows below h where G = kappa t_f/2 + eps t_f + w - z_R >= 0; left: G = kappa t_f/2 - eps t_f - w + z_L.
Both are sums of a few numbers (how large each error is) times fixed profiles in height. Derived in
docs/physics.md#tolerance-study.
"""

from dataclasses import dataclass

import numpy as np

from varistrat.core.bars.points import Array
from varistrat.core.blade.geometry import Geometry, along
from varistrat.core.cached import cached_property
from varistrat.core.cutting.cut import Cut
from varistrat.core.errors import InputError

HEIGHTS = 97


@dataclass(frozen=True)
class Lamina:
    """Stations x (n,), and what the core is planned to be: share of the thickness, and offset as such a share, + right."""

    geometry: Geometry
    x: Array
    share: float
    offset: float

    @classmethod
    def of(cls, cut: Cut, x: Array) -> "Lamina":
        """Raises InputError when the blade has no core that lies flat between its clads."""
        geometry = cut.placed.geometry
        if geometry.blade.laminate:
            return cls(geometry, x, geometry.blade.laminate.core.share, 0.0)
        flat = cut.flat_core
        if flat is None:
            raise InputError.at(
                "recipe.bar.start", "there is no core lying flat between clads", "give a laminate, or a stack of clad, core and clad"
            )
        return cls(geometry, x, *flat)

    @cached_property
    def height(self) -> Array:
        """Of the blade at its stations, mm."""
        return self.geometry.height(self.x)

    @cached_property
    def h(self) -> Array:
        """Heights (n, HEIGHTS) from the edge to the spine, a little closer near the edge."""
        u = np.linspace(0, 1, HEIGHTS)
        out: Array = (0.6 * u + 0.4 * u * u) * self.height[:, None]
        return out

    @cached_property
    def profiles(self) -> "Profiles":
        """Faces at its stations and heights, with how they move for every error; worked out once."""
        g, x = self.geometry, self.x[:, None]
        faces = g.faces(x, self.h)
        height = self.height[:, None]
        r = self.h / height
        right, left = (np.minimum(self.h / g.bevel_top(k, height), 1) for k in (g.blade.grind.right, g.blade.grind.left))
        share = g.blade.grind.share_right
        return Profiles(
            forged=faces.forged,
            right=faces.right,
            left=faces.left,
            warp=g.warp(x, self.h, height),
            cup=4 * r * (1 - r),
            lever=self.h - height / 2,
            edge_right=share * (1 - right),
            edge_left=(1 - share) * (1 - left),
            thinning=np.maximum(faces.forged / g.bar_thickness, 1e-3),
        )

    @cached_property
    def base_share(self) -> Array:
        """kappa planned at the stations, with the error the blade already has, before flow."""
        return np.asarray(self.share + along(self.geometry.blade.errors.core_share, self.x))

    @cached_property
    def base_offset(self) -> Array:
        """Where the core's middle lies with the errors given, share of the thickness, + right."""
        return np.asarray(self.offset + along(self.geometry.blade.errors.core_offset, self.x))


@dataclass(frozen=True)
class Profiles:
    """At stations and heights (n, k), mm unless said: t_f, faces, w, and what one unit of each error does.

    cup: of w for 1 mm; lever: of w for a slope of 1; edge_*: of that face for 1 mm of whole edge thickness; thinning: t_f/T.
    """

    forged: Array
    right: Array
    left: Array
    warp: Array
    cup: Array
    lever: Array
    edge_right: Array
    edge_left: Array
    thinning: Array
