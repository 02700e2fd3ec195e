"""A design as it begins: its scale counted, its piles long enough for its blade."""

from varistrat.core.design.document import Document
from varistrat.core.design.scale import counted
from varistrat.core.design.worked import Worked
from varistrat.core.errors import InputError
from varistrat.core.stock.sheet import FINE, stock_of
from varistrat.core.stock.ways import made_so


def begun(document: Document) -> Document:
    """The document with its scale counted and, where its finished bar would be too short, with longer piles; what cannot be made so is
    given back as it is."""
    now = counted(document)
    worked = Worked.of(now)
    if worked.problems or not now.blade:
        return now
    try:
        sheet = stock_of(worked)
        if sheet.spare >= -FINE:
            return now
        longer = made_so(worked, sheet)
        # a longer bar takes more heats, and those take scale
        again = counted(longer)
        return now if Worked.of(again).problems else again
    except InputError:
        return now
