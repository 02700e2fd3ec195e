"""A label to hang on the steel: what it is, and a code that opens it."""

from collections.abc import Sequence

from varistrat.core.paper.typeset import typeset


def label_pdf(title: str, lines: Sequence[str], address: str) -> bytes:
    """70 x 37 mm; the code: QR, error correction M, with its quiet zone."""
    import segno

    rows = [[int(cell) for cell in row] for row in segno.make(address, error="m", micro=False).matrix]
    return typeset("label", {"paper": "a4", "title": title, "lines": list(lines), "rows": rows})
