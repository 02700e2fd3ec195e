"""Changes of a design: document in, document out, checked as any that is read, every part with its id."""

from collections.abc import Mapping
from typing import Any

from varistrat.core.bars.identity import parts_of
from varistrat.core.design.document import Document, read_document


def with_steps(document: Document, changes: Mapping[str, Mapping[str, Any]]) -> Document:
    """These fields of these steps (by id) changed. Raises InputError for what cannot be."""
    data = document.as_json()
    for what, part in parts_of(data["recipe"]["bar"]):
        if what == "step":
            part.update(changes.get(part["id"], {}))
    return read_document(data, document.shop)


def with_new_step(document: Document, bar: str, at: int, step: Mapping[str, Any]) -> Document:
    """A step (JSON with an id of its own) put into a bar (its id; empty: the whole) as its `at`-th. Raises InputError for what
    cannot be."""
    data, where = document.as_json(), document.bar(bar).id
    next(part for what, part in parts_of(data["recipe"]["bar"]) if what == "bar" and part["id"] == where)["steps"].insert(at, dict(step))
    return read_document(data, document.shop)
