"""Hand work that leaves the layers wavy, as a step of its own."""

from typing import Any, ClassVar, Literal

from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.model import Mm, Mm0, Seed, Step, Unevenness, shown, tidy
from varistrat.core.bars.points import Points


class Uneven(Step):
    """Hammer marks, ground flat again: the layers stay wavy, and that is what shows.

    Sizes are kept. The movement is that of `Unevenness`.
    """

    kind: Literal["uneven"] = "uneven"
    title: ClassVar[str] = "Peen"
    blurb: ClassVar[str] = "Leave the layers wavy under flat faces."
    shapes: ClassVar[bool] = False
    amount: Mm0 = Field(**shown("Amount", "mm", "rms lift of the layers at mid-height"))
    wavelength: Mm = Field(**shown("Wavelength", "mm", "distance from one hump to the next"))
    seed: Seed = Field(**shown("Another throw", "", "another number gives another bar of the same hand"))

    def size(self, before: Bar) -> Change:
        before.need_rectangle("uneven hand work")
        return Change(before)

    def length_before(self, length: float, before: Bar) -> float:
        return length

    def pull(self, p: Points, before: Bar, after: Bar) -> None:
        Unevenness(amount=self.amount, wavelength=self.wavelength, seed=self.seed).pull(p, after)

    def instruction(self, before: Bar, after: Bar) -> str:
        return (
            f"Work the faces with the peen, humps about {self.wavelength:g} mm apart, then flatten: the layers stay about "
            f"{self.amount:g} mm out of true."
        )

    @classmethod
    def fresh(cls, bar: Bar) -> dict[str, Any]:
        return {"amount": tidy(min(0.3, 0.03 * bar.thickness)), "wavelength": tidy(0.6 * bar.width), "seed": 1}
