"""A template and its data made into a PDF."""

import json
from pathlib import Path
from typing import Any, Literal, get_args

from varistrat.core.errors import InputError

Paper = Literal["a4", "letter"]
PAPERS: tuple[Paper, ...] = get_args(Paper)
SIZES: dict[Paper, tuple[float, float]] = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
"""mm, upright: width, height."""
HERE = Path(__file__).parent


def check_paper(paper: str) -> Paper:
    """Raises InputError for one we do not set."""
    found = next((p for p in PAPERS if p == paper), None)
    if found is None:
        raise InputError.at("paper", f"{paper[:20]!r} is no paper here", f"use {' or '.join(PAPERS)}")
    return found


def typeset(template: str, data: dict[str, Any]) -> bytes:
    """`templates/<template>.typ` with this data."""
    # it takes a moment to load, and most of what is asked of the core needs no paper
    import typst

    return bytes(
        typst.compile(
            str(HERE / "templates" / f"{template}.typ"),
            root=str(HERE),
            font_paths=[str(HERE / "fonts")],
            ignore_system_fonts=True,
            format="pdf",
            sys_inputs={"data": json.dumps(data)},
        )
    )
