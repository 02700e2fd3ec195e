"""What one steel does in the quench and the temper, from its own figures and its carbon in solution."""

from dataclasses import dataclass

from varistrat.core.heat import hardness, transform
from varistrat.core.heat.hardenability import GRAIN_BEFORE, hardens_in_air, ideal_diameter, plate_full, severity_of, slowest_quench
from varistrat.core.heat.temper import TemperLaw
from varistrat.core.steels.model import TEMPERS, Quench, Steel

TARGET = 0.6, 0.8
"""Carbon in solution to aim at, %: martensite is as hard as it gets from 0.6 on; above 0.8 austenite is left and plates crack."""
PLATE = 1.0
EDGE_LEAST = 56.0
"""Hardness below which an edge does not stand, HRC; indicative."""


TAKES_HARDENING = 0.45
"""Carbon from which a steel that does not harden by itself does with what it took up, %."""


def can_harden(steel: Steel, carbon: float) -> bool:
    """By itself, or by the carbon it has now: not nickel, copper or austenitic stainless."""
    ferrous = steel.share("Ni") < 20 and steel.share("Cu") < 20 and not (steel.share("Cr") > 10 and steel.share("C") < 0.1)
    return steel.hardening or (ferrous and carbon >= TAKES_HARDENING)


@dataclass(frozen=True)
class Quenched:
    """A steel heated to one temperature, soaked and quenched to martensite. Shares 0 to 1, HRC, C.

    carbon: in solution, %; retained: (least, most);
    hrc: as quenched; law: its tempering; quench: the slowest that hardens the section through, severity: what that wants;
    diameter: its ideal diameter, mm (inf: hardens in air).
    """

    carbon: float
    austenite: float
    left: float
    ms: float
    retained: tuple[float, float]
    hrc: float
    sure: float
    law: TemperLaw
    quench: Quench | None
    severity: float
    diameter: float

    def through(self, quench: Quench) -> float:
        """Thickest plate that comes out of this quench hard throughout, mm; inf when air does it. Indicative."""
        return self.diameter if self.diameter == float("inf") else plate_full(self.diameter, severity_of(quench))


def law_of(steel: Steel) -> TemperLaw:
    """Fitted to its own table, or by its carbon when it has none."""
    top = sum(steel.as_quenched) / 2 if steel.as_quenched else hardness.full(steel.share("C"))
    if steel.temper:
        return TemperLaw.fitted(TEMPERS, steel.temper, top)
    alloy = steel.share("Cr") + max(0.0, steel.share("Si") - 0.2) + 0.6 * steel.share("V")
    return TemperLaw.of_carbon(steel.share("C"), alloy, top)


def quenched(
    steel: Steel, celsius: float, minutes: float, thickness: float = 4.0, carbon: float | None = None, cold: float = 20.0
) -> Quenched:
    """Harden `steel` from `celsius` after a soak; `carbon`: its carbon once the layers have shared it, else its own.

    Hardness is the steel's own as-quenched figure, moved by what the carbon in solution differs from
    that of its own window: so a shop's figure is kept. docs/physics.md#quenched-hardness.
    """
    own = steel.share("C")
    now = {**steel.composition, "C": own if carbon is None else carbon}
    got = transform.austenite(now, celsius, minutes)
    kept = transform.retained_range(now, got.carbon, cold) if got.share else (0.0, 0.0)
    middle = sum(kept) / 2
    hrc = hardness.quenched(got.carbon, 0.999, middle)
    sure = hardness.QUENCHED_SURE
    if steel.as_quenched and steel.austenitise:
        usual = transform.austenite(steel.composition, sum(steel.austenitise) / 2, sum(steel.soak) / 2 if steel.soak else 10.0)
        at_usual = hardness.quenched(usual.carbon, 0.999, sum(transform.retained_range(steel.composition, usual.carbon)) / 2)
        hrc += sum(steel.as_quenched) / 2 - at_usual
        sure = max(sure, (steel.as_quenched[1] - steel.as_quenched[0]) / 2)
    else:
        sure = 2.0
    if got.share < 1:
        # what stayed ferrite is soft
        hrc = max(0.0, got.share * hrc + (1 - got.share) * 5.0)
        sure += 4.0
    law = law_of(steel).shifted(now["C"] - own, hrc)
    quench, severity = slowest_quench(now, got.carbon, thickness) if got.share > 0.5 else (None, float("inf"))
    diameter = float("inf") if hardens_in_air(now) else ideal_diameter(now, got.carbon, GRAIN_BEFORE)
    return Quenched(got.carbon, got.share, got.left, transform.ms(now, got.carbon), kept, hrc, sure, law, quench, severity, diameter)
