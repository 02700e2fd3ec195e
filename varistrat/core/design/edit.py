"""Changes of a design: document in, document out, checked as any that is read, every part with its id."""

from collections.abc import Mapping
from typing import Any

from varistrat.core.design.document import Document, read_document


def with_steps(document: Document, changes: Mapping[str, Mapping[str, Any]]) -> Document:
    """These fields of these steps (by id) changed. Raises InputError for what cannot be."""
    data = document.as_json()
    bars = [data["recipe"]["bar"]]
    for bar in bars:
        bars += bar["start"].get("bars", ())
        bar["steps"] = [step | changes.get(step["id"], {}) for step in bar["steps"]]
    return read_document(data, document.shop)


def with_new_step(document: Document, bar: str, at: int, step: Mapping[str, Any]) -> Document:
    """A step (JSON with an id of its own) put into a bar (its id; empty: the whole) as its `at`-th. Raises InputError for what
    cannot be."""
    data, where = document.as_json(), document.bar(bar).id
    bars = [data["recipe"]["bar"]]
    for one in bars:
        bars += one["start"].get("bars", ())
        if one["id"] == where:
            one["steps"].insert(at, dict(step))
    return read_document(data, document.shop)
