"""The card that goes with a blade, A6 across."""

from dataclasses import asdict

from varistrat.core.build.card import Card
from varistrat.core.paper.typeset import typeset


def card_pdf(card: Card) -> bytes:
    """148 x 105 mm."""
    return typeset("card", {"paper": "a4"} | asdict(card))
