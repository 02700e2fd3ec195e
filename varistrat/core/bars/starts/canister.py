"""A can filled with powder, and solid pieces among it."""

from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache
from typing import Annotated, Any, ClassVar, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from varistrat.core.bars.bar import Bar, Change
from varistrat.core.bars.joints import Joints
from varistrat.core.bars.model import Mm, Mm0, Model, PileStart, Seed, SignedMm, SteelKey, said, shown
from varistrat.core.bars.points import Array, Points
from varistrat.core.bars.put_in import PutIn
from varistrat.core.bars.section import Section
from varistrat.core.bars.starts.inserts import Filling, Lying, Piece, Prism, Round
from varistrat.core.cached import cached_property
from varistrat.core.errors import InputError
from varistrat.core.findings import Code, Finding
from varistrat.core.limits import MAX_CAN_CORNERS, MAX_CAN_PIECES, MAX_CUTOUT_POINTS, MAX_INSERT_PIECES, MAX_INSERTS
from varistrat.core.steels import Steel

DEEP = 5.0
"""How far from its surface a piece is told apart from the powder, mm: further off nothing changes."""
CANDIDATES, TOGETHER = 1500, 100
Place = Annotated[list[SignedMm], Field(min_length=2, max_length=3)]
Corner = Annotated[list[SignedMm], Field(min_length=2, max_length=2)]


CAN_CLOSES = Code("can_closes", "bar", ("note",), "Pressed solid, {before:.4g} mm of filling becomes {after:.4g} mm.")
CAN_SEALED = Code("can_sealed", "bar", ("stop",), "A sealed can may burst in the fire.")
PACKING_HIGH = Code("packing_high", "bar", ("care",), "Powder hardly packs as tight as that.")


class Powder(Model):
    """What fills the can between the pieces, and how tight it is shaken."""

    steel: SteelKey = Field(**shown("Powder"))
    packing: Annotated[float, Field(gt=0.05, le=1)] = Field(
        **shown("Packing", "share", "solid steel in a volume of tapped powder: about 0.5 to 0.65; 1 for none of it hollow")
    )


class Insert(Model):
    """Pieces of one kind. Places are (y, z), or (x, y, z) for balls and short tiles, from the can's middle line."""

    shape: Literal["rod", "ball", "tile", "outline"] = Field(**shown("Shape"))
    steel: SteelKey = Field(**shown("Steel"))
    size: Mm = Field(**shown("Size", "mm", "diameter of rods and balls; width of tiles and outlines"))
    thickness: Mm | None = Field(None, **shown("Thickness", "mm", "of a tile; as its width if left out", when="shape=tile"))
    length: Mm | None = Field(None, **shown("Length", "mm", "along the can; all of it if left out", when="shape=tile"))
    angle: Annotated[float, Field(ge=-360, le=360)] = Field(
        0.0, **shown("Turned", "deg", "about the can's length", when="shape=tile shape=outline")
    )
    outline: Annotated[list[Corner], Field(min_length=3, max_length=MAX_CUTOUT_POINTS)] | None = Field(
        None, **shown("Outline", "mm", "corners (y, z) in order; brought to the width given by size", quiet=True)
    )
    positions: Annotated[list[Place], Field(min_length=1, max_length=MAX_INSERT_PIECES)] | None = Field(
        None, **shown("Places", "mm", quiet=True)
    )
    count: Annotated[int, Field(ge=1, le=MAX_INSERT_PIECES)] | None = Field(None, **shown("How many", "", "dropped in by chance"))
    seed: Seed | None = Field(None, **shown("Another throw", "", "another number, another fall"))

    @property
    def solid(self) -> bool:
        """Whether its places need an x."""
        return self.shape == "ball" or (self.shape == "tile" and self.length is not None)

    def corners(self) -> NDArray[np.float64]:
        """Outline (n, 2) of a tile or outline about its own middle, turned. Raises InputError."""
        if self.shape == "tile":
            w, t = self.size / 2, (self.thickness or self.size) / 2
            ring = np.array([[-w, -t], [w, -t], [w, t], [-w, t]])
        else:
            if self.outline is None:
                raise InputError.at(
                    "outline", "an outline needs its corners", "give them as [[y, z], ...] in mm, or read them from a drawing"
                )
            ring = np.array(self.outline, float)
            # a corner told twice, as the last of a closed outline often is, has no edge to the next
            ring = ring[np.abs(ring - np.roll(ring, 1, axis=0)).max(axis=1) > 0]
            if len(ring) < 3:
                raise InputError.at("outline", "fewer than three corners lie apart", "give at least three corners that are not in a line")
            span = np.ptp(ring, axis=0)
            swept = ring[:, 0] * np.roll(ring[:, 1], -1) - np.roll(ring[:, 0], -1) * ring[:, 1]
            if not (span > 1e-9).all() or abs(swept.sum()) / 2 < 1e-6 * span[0] * span[1]:
                raise InputError.at("outline", "the outline has no area", "give at least three corners that are not in a line")
            ring = (ring - (ring.max(axis=0) + ring.min(axis=0)) / 2) * (self.size / span[0])
            if crosses_itself(ring):
                raise InputError.at("outline", "the outline crosses itself", "give its corners in order, once round")
        turn = np.deg2rad(self.angle)
        c, s = np.cos(turn), np.sin(turn)
        return np.asarray(ring @ np.array([[c, s], [-s, c]]))

    def reach(self) -> float:
        """Middle to the furthest point across the can, mm."""
        return self.size / 2 if self.shape in ("rod", "ball") else float(np.hypot(*self.corners().T).max())

    def pieces(self, places: Sequence[Sequence[float]], length: float) -> list[Piece]:
        """The piece at each of its places ((y, z) or (x, y, z), mm); `length` of the can, mm."""
        at = [tuple(p) if len(p) == 3 else (0.0, *p) for p in places]
        if self.shape in ("rod", "ball"):
            return [Round(self.size, tuple(at), self.shape == "ball")]  # type: ignore[arg-type]
        ring = self.corners()
        out: list[Piece] = []
        for x, y, z in at:
            span = (x - self.length / 2, x + self.length / 2) if self.length else None
            out.append(Prism(tuple((float(a), float(b)) for a, b in ring + np.array([y, z])), span))
        return out


def crosses_itself(ring: NDArray[np.float64]) -> bool:
    """Whether two edges of a closed outline (n, 2) that are not neighbours cross."""
    a, b = ring, np.roll(ring, -1, axis=0)

    def side(p: Array, q: Array, r: Array) -> Array:
        return (q[..., 0] - p[..., 0]) * (r[..., 1] - p[..., 1]) - (q[..., 1] - p[..., 1]) * (r[..., 0] - p[..., 0])

    n = len(ring)
    i, j = np.triu_indices(n, 2)
    keep = ~((i == 0) & (j == n - 1))
    i, j = i[keep], j[keep]
    first = side(a[i], b[i], a[j]) * side(a[i], b[i], b[j]) < 0
    return bool((first & (side(a[j], b[j], a[i]) * side(a[j], b[j], b[i]) < 0)).any())


class Canister(PileStart):
    """A can of powder with solid pieces in it, pressed solid; the can itself is peeled or ground off.

    The bar is the inside of the can, T lower by the packing share P = f + (1 - f) p, where f is the
    share of the can that is pieces and p the powder's own packing. Inverse: z = z'/P in the can;
    |det J| = 1/P, the one map here that closes up hollow room. Derived in docs/physics.md#canister.
    """

    kind: Literal["canister"] = "canister"
    canned: ClassVar[bool] = True
    title: ClassVar[str] = "Canister"
    blurb: ClassVar[str] = "A can of powder with rods, balls, tiles or cut-outs in it."
    length: Mm = Field(**shown("Length inside", "mm"))
    width: Mm = Field(**shown("Width inside", "mm"))
    thickness: Mm = Field(**shown("Height inside", "mm"))
    matrix: Powder = Field(**shown("Powder"))
    inserts: Annotated[list[Insert], Field(max_length=MAX_INSERTS)] = Field(default=[], **shown("Pieces in it"))
    wall: Mm0 = Field(2.0, **shown("Wall of the can", "mm", "comes off again", quiet=True))
    release: Literal["peels", "ground"] = Field(
        "peels",
        **shown("The can", "", "coated inside, it peels off once it is pressed solid; welded on, it is ground off", quiet=True),
    )
    vented: bool = Field(True, **shown("Vented", "", "a small hole for pressure to get out", quiet=True))

    @classmethod
    def fresh(cls, bar: dict[str, Any], size: Bar, mirrored: Callable[[dict[str, Any]], dict[str, Any]]) -> dict[str, Any]:
        length, width, thickness = said(size)
        rod = {"shape": "rod", "steel": "15n20", "size": max(round(min(width, thickness) / 6, 1), 0.1), "count": 7, "seed": 1}
        start = {
            "kind": "canister",
            "length": length,
            "width": width,
            "thickness": thickness,
            "matrix": {"steel": "1084", "packing": 0.6},
            "inserts": [rod],
        }
        return {"start": start, "steps": bar.get("steps", [])}

    @cached_property
    def filled(self) -> tuple[list[list[Piece]], float]:
        """(pieces of every insert, packing share). Raises InputError when something does not fit."""
        filling = _fill(self.model_dump_json())
        return filling.kinds, filling.share

    def size(self, bars: Sequence[Bar] = ()) -> Change:
        _, share = self.filled
        return Change(Bar(self.length, Section("rectangle", self.width, self.thickness * share)))

    def density(self, steels: Mapping[str, Steel], bars: Sequence[Bar] = (), densities: Sequence[float] = ()) -> float:
        pieces, share = self.filled
        can = self.length * self.width * self.thickness
        volumes = [sum(p.volume(self.length) for p in kind) for kind in pieces]
        solid = sum(v * steels[i.steel].density for v, i in zip(volumes, self.inserts, strict=True))
        powder = can * share - sum(volumes)
        return float((solid + powder * steels[self.matrix.steel].density) / (can * share))

    def joints(self) -> Joints:
        return Joints(bare=True, can=True)

    @property
    def peels(self) -> bool:
        return self.release == "peels"

    def put_in(self, length: float, steels: Mapping[str, Steel]) -> list[PutIn]:
        pieces, share = self.filled
        longer = length / self.length
        volumes = [sum(p.volume(self.length) for p in kind) for kind in pieces]
        # pieces that go along the can grow with it; balls and cut pieces as many more of them
        solid = self.length * self.width * self.thickness * share - sum(volumes)
        wide, tall = self.width + 2 * self.wall, self.thickness + 2 * self.wall
        out = [PutIn("powder", self.matrix.steel, "powder", grams=solid * longer * steels[self.matrix.steel].density * 1e-6)]
        for insert, kind in zip(self.inserts, pieces, strict=True):
            count = sum(len(p.centres) if isinstance(p, Round) else 1 for p in kind)
            if insert.solid:
                long = insert.size if insert.shape == "ball" else insert.length or length
                count = max(count, round(count * longer))
            else:
                long = length
            form = "round" if insert.shape in ("rod", "ball") else "flat"
            thick = insert.size if form == "round" else insert.thickness or insert.size
            out.append(PutIn(insert.shape, insert.steel, form, insert.size, thick, long, count))
        if self.wall:
            out.append(PutIn("can", None, "tube", wide, tall, length, 1, self.wall))
            out.append(PutIn("lid", None, "sheet", wide, tall, self.wall, 2))
        return out

    def piles(self) -> tuple[tuple[tuple[str, float], ...], ...]:
        if not self.inserts:
            return (((self.matrix.steel, self.thickness),),)
        return tuple(((i.steel, DEEP), (self.matrix.steel, DEEP)) for i in self.inserts)

    def heights(self, p: Points, bar: Bar) -> tuple[Array, NDArray[np.int16] | None]:
        filling = _fill(self.model_dump_json())
        z = p.z * float(1 / filling.share)
        if not self.inserts:
            return z + self.thickness / 2, None
        off, which = filling.nearest(p.x, p.y, z, DEEP)
        off += DEEP
        return np.clip(off, 0, 2 * DEEP, out=off), which

    def work(self) -> int:
        pieces, _ = self.filled
        return 1 + round(sum(p.work((self.width, self.thickness), DEEP) for kind in pieces for p in kind))

    def checks(self, bar: Bar, bars: Sequence[Bar] = ()) -> list[Finding]:
        _, share = self.filled
        found = [
            CAN_CLOSES.found(
                f"Only {100 * share:.0f} % of the can is steel. Pieces stand in the powder squat by as much.",
                "Draw the pieces taller by that share if they should come out true.",
                before=self.thickness,
                after=bar.thickness,
                field="matrix.packing",
                value=share,
            )
        ]
        if not self.vented:
            found.append(
                CAN_SEALED.found(
                    "Trapped air at welding heat presses five times as hard; a gram of water in 100 ml some 70 times.",
                    "Drill a vent of 2 to 3 mm facing away from people, bake the can dry at 150 C first, and keep clear of it.",
                    field="vented",
                )
            )
        if self.matrix.packing > 0.75 and self.matrix.packing < 1:
            found.append(
                PACKING_HIGH.found(
                    (
                        f"Tapped powder fills 0.45 to 0.68 of its room, coarse and fine together up to 0.8; here {self.matrix.packing:g}. "
                        "Indicative."
                    ),
                    "Weigh a known volume of it, tapped down: mass over volume times density is the packing.",
                    field="matrix.packing",
                    value=self.matrix.packing,
                    limit=0.75,
                )
            )
        return found

    def instruction(self, bar: Bar) -> str:
        count = sum(len(i.positions or []) or (i.count or 0) for i in self.inserts)
        pieces = f" Set the {count} pieces," if count else ""
        vent = "Weld the lid and drill a 2 mm vent" if self.vented else "Weld the lid tight"
        coat = (
            "Coat the inside of the can so that it peels." if self.peels else "Clean the can inside: it welds on, and is ground off later."
        )
        return (
            f"{coat}{pieces} fill with dry powder and tap it down to "
            f"{self.length:.4g} x {self.width:.4g} x {self.thickness:.4g} mm. {vent}; soak long, press slowly."
        )


@lru_cache(maxsize=64)
def _fill(canister_json: str) -> Filling:
    can = Canister.model_validate_json(canister_json)
    counts = [len(i.positions or ()) or i.count or 0 for i in can.inserts]
    if sum(counts) > MAX_CAN_PIECES:
        raise InputError.at("inserts", f"they are {sum(counts)} pieces, more than {MAX_CAN_PIECES} in one can", "put in fewer")
    corners = sum(n * len(i.outline or ()) for n, i in zip(counts, can.inserts, strict=True))
    if corners > MAX_CAN_CORNERS:
        raise InputError.at(
            "inserts",
            f"their outlines have {corners} corners together, more than {MAX_CAN_CORNERS} in one can",
            "put in fewer, or draw them with fewer corners",
        )
    kinds: list[list[Piece]] = []
    flat: list[Piece] = []
    owner: list[int] = []
    for i, insert in enumerate(can.inserts):
        try:
            places = _places(can, insert, flat)
            mine = insert.pieces(places, can.length)
            _check_inside(can, insert, mine)
        except InputError as e:
            raise e.under(f"inserts[{i}]") from e
        kinds.append(mine)
        flat += mine
        owner += [i] * len(mine)
    met = Lying(flat).crossing()
    if met:
        a, b = owner[met[0]], owner[met[1]]
        other = "another of its kind" if a == b else f"insert {a}"
        raise InputError.at(f"inserts[{b}]", f"a piece runs into {other}", "move them apart or make them smaller")
    room = can.length * can.width * can.thickness
    f = sum(p.volume(can.length) for p in flat) / room
    return Filling(kinds, f + (1 - f) * can.matrix.packing)


def _places(can: Canister, insert: Insert, before: list[Piece]) -> list[list[float]]:
    """Where the pieces of one insert go: as given, or dropped in by its seed."""
    if (insert.positions is None) == (insert.count is None):
        raise InputError.at("positions", "neither or both of positions and count are given", "give places, or a count and a seed")
    if insert.positions is not None:
        want = 3 if insert.solid else 2
        for k, place in enumerate(insert.positions):
            if len(place) != want:
                words = "x, y and z" if want == 3 else "y and z"
                raise InputError.at(f"positions[{k}]", f"{len(place)} numbers for a {insert.shape}", f"give {words} in mm")
        return insert.positions
    if insert.seed is None:
        raise InputError.at("seed", "a fall by chance needs its seed", "give any whole number")
    # what goes through the whole can falls alike into one of any length
    long, among = (can.length, before) if insert.solid else (0.0, [p.shadow for p in before])
    return [list(at) for at in _drop((long, can.width, can.thickness), insert.model_dump_json(), tuple(among))]


@lru_cache(maxsize=256)
def _drop(size: tuple[float, float, float], insert_json: str, before: tuple[Piece, ...]) -> list[tuple[float, ...]]:
    """Pieces dropped in one after the other, each to the lowest of many places where it still has room. size: of the can."""
    from scipy.spatial.distance import cdist

    insert = Insert.model_validate_json(insert_json)
    rng = np.random.default_rng(insert.seed)
    r = insert.reach()
    half = np.array(size) / 2
    ends = insert.size / 2 if insert.shape == "ball" else (insert.length or 0) / 2
    room = half - (ends if insert.solid else 0, r, r)
    if (room < 0).any():
        raise InputError.at("size", f"a piece {2 * r:.4g} mm across does not go into the can", "make it smaller, or the can bigger")
    lying = Lying(before)
    apart = 2 * (max(r, ends) if insert.solid else r)
    axes = slice(0 if insert.solid else 1, 3)
    (piece,) = insert.pieces([[0.0, 0.0, 0.0][axes]], size[0])
    places, pieces, fallen = np.empty((0, 3)), [], Lying(())

    def roomy(at: Array) -> Array:
        """Whether a round as large as the piece has room there."""
        return ~lying.nearer(at, r) & (cdist(at[:, axes], places[:, axes], "sqeuclidean") > apart * apart).all(axis=1)

    def fits(at: Array) -> Array:
        """Whether the piece itself has."""
        return np.ones(len(at), bool) if isinstance(piece, Round) else ~(lying.met(piece, at) | fallen.met(piece, at))

    for _ in range(insert.count or 0):
        at = rng.uniform(-1, 1, (CANDIDATES, 3)) * room
        at[:, 0] = at[:, 0] + half[0] if insert.solid else half[0]
        at = at[np.argsort(at[:, 2], kind="stable")]
        place = _first(at, roomy, fits)
        if place is None and isinstance(piece, Prism):
            place = _first(at, fits)
        if place is None:
            raise InputError.at("count", f"only {len(places)} of {insert.count} pieces fall into place", "give fewer, or smaller ones")
        places = np.vstack([places, place])
        if isinstance(piece, Prism):
            pieces.append(piece.moved(*place.tolist()))
            fallen = Lying(pieces)
    return [tuple(p) for p in places[:, axes].tolist()]


def _first(at: Array, *tests: Callable[[Array], Array]) -> Array | None:
    """The first of many places that passes; a few are tried at a time, as most often an early one does."""
    for start in range(0, len(at), TOGETHER):
        some = at[start : start + TOGETHER]
        for test in tests:
            some = some[test(some)]
        if len(some):
            return np.asarray(some[0])
    return None


def _check_inside(can: Canister, insert: Insert, pieces: Sequence[Piece]) -> None:
    half = np.array([can.length / 2, can.width / 2, can.thickness / 2])
    for piece in pieces:
        box = piece.box - (half[0], 0, 0)
        if not insert.solid:
            box[..., 0] = 0
        out = (np.abs(box) > half + 1e-6).any(axis=(1, 2))
        if out.any():
            raise InputError.at(
                f"positions[{int(np.flatnonzero(out)[0])}]" if insert.positions else "size",
                f"the piece reaches out of the can, {can.length:g} x {can.width:g} x {can.thickness:g} mm inside",
                "move it in or make it smaller",
            )
