"""What a start or a step takes from the rack beside layers: cans, lids, powder, rods, sheets between."""

from dataclasses import dataclass


@dataclass(frozen=True)
class PutIn:
    """`count` pieces of one kind, mm; of powder `grams`. form as the rack has it; steel None: any mild steel."""

    name: str
    steel: str | None
    form: str
    width: float = 0.0
    thickness: float = 0.0
    length: float = 0.0
    count: int = 1
    wall: float = 0.0
    grams: float = 0.0

    @property
    def says(self) -> str:
        """What it is, with its size; mm."""
        size = f", {self.width:.4g} x {self.thickness:.4g} x {self.length:.4g} mm" if self.form != "powder" else ""
        wall = f", wall {self.wall:g} mm" if self.wall else ""
        return f"{self.name}{size}{wall}"
