"""A finished blade before the camera: which stands in for a real one in the demo, and lets a shop try a photo before it has one to take."""

from concurrent.futures import Executor
from dataclasses import dataclass

import numpy as np

from varistrat.core.blade.geometry import Side
from varistrat.core.design.worked import Worked
from varistrat.core.instruments.camera import Camera, Lying
from varistrat.core.pattern.picture import PORTRAIT, SCREEN, draw
from varistrat.core.pattern.views import BladeView
from varistrat.core.photo.numbers import taken_over

DEEPER = 0.12
"""Of the bar's thickness at the most: how much deeper one face of a made-up blade may lie than planned."""
PX = 1000
MARGIN = 4.0


@dataclass(frozen=True)
class OnBench:
    """One face of a blade, etched, lying up."""

    worked: Worked
    side: Side
    executor: Executor

    @property
    def view(self) -> BladeView:
        """Of the face that lies up."""
        return BladeView(self.worked.blade.placed, self.side, MARGIN, True)

    def lies(self) -> Lying:
        """Raises InputError without a blade."""
        subject = self.worked.blade.subject()
        grey = draw(subject, self.view, PX, self.executor, SCREEN)
        return grey, draw(subject, self.view, PX, self.executor, PORTRAIT)[..., 1]

    def camera(self, seed: int = 4) -> Camera:
        """Held over it."""
        return Camera(self.lies, seed=seed)

    def seen_at(self, x: float, y: float) -> tuple[float, float]:
        """Where the camera's photo of the right side shows a place on the blade (x from the heel, y above the heel's edge; mm), px."""
        wide, tall = self.view.size
        scale = PX / wide
        _, high = self.worked.blade.geometry.curves.span()
        return self.camera().sees((x + MARGIN) * scale, (high + MARGIN - y) * scale, PX, round(tall * scale))


def as_it_comes_out(worked: Worked, side: Side, seed: int) -> Worked:
    """The blade a little otherwise than planned, as blades come out: this face ground deeper or less deep. Raises InputError without a
    blade."""
    most = DEEPER * worked.blade.placed.bar.thickness
    off = float(np.random.default_rng([seed, side == "left"]).uniform(-most, most))
    return Worked.of(taken_over(worked, side, {"ground": off}))
