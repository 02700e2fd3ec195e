"""The pieces that the piles of a design are made of."""

from collections.abc import Iterator, Sequence

from varistrat.core.stock.cuts import Piece
from varistrat.core.stock.sheet import PileWanted


def named(address: Sequence[int], layer: int) -> str:
    """What a piece is for: the bar (`bar`, or its address with points between) and the layer, the lowest 1."""
    return f"{'.'.join(str(i + 1) for i in address) or 'bar'}:{layer}"


def pieces_of(piles: Sequence[PileWanted]) -> Iterator[Piece]:
    """Every layer of every pile, from the bottom up."""
    for pile in piles:
        for i, (steel, thickness) in enumerate(pile.layers, 1):
            yield Piece(named(pile.bar, i), steel, pile.width, thickness, pile.length)
