"""What docs/ publishes of the code, made from it: the JSON Schemas of the files, and the list of findings."""

import json
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any, get_args

from pydantic import BaseModel

from varistrat.core.bars.recipe import Recipe
from varistrat.core.blade.model import Blade
from varistrat.core.findings import Code, Place, every_code


def _schema(of: type[BaseModel]) -> str:
    schema: dict[str, Any] = {"$schema": "https://json-schema.org/draft/2020-12/schema"}
    schema |= of.model_json_schema(by_alias=True)
    return json.dumps(schema, indent=1, sort_keys=True) + "\n"


def _rows(code: Code) -> str:
    says = " / ".join(dict.fromkeys(code.sentence(g) for g in code.grades))
    return f"| `{code.name}` | {', '.join(code.grades)} | {says} |"


def _findings() -> str:
    codes = every_code()
    text = (
        "# What can be found\n\nWritten from the code: `python -m tests.check --write`. A finding carries its code, a grade, "
        "why, and what to do.\n"
    )
    for place in get_args(Place):
        rows = [_rows(c) for c in codes if c.place == place]
        text += f"\n## Told at {place}\n\n| code | grades | what it says |\n| --- | --- | --- |\n" + "\n".join(rows) + "\n"
    return text


PUBLISHED: dict[str, Callable[[], str]] = {
    "recipe.schema.json": lambda: _schema(Recipe),
    "blade.schema.json": lambda: _schema(Blade),
    "findings.md": _findings,
}


def main(args: list[str]) -> int:
    """--write DIR or --check DIR."""
    if len(args) != 2 or args[0] not in ("--write", "--check"):
        raise SystemExit("usage: --write DIR | --check DIR")
    stale = []
    for name, made in PUBLISHED.items():
        path = Path(args[1]) / name
        if args[0] == "--write":
            path.write_text(made())
        elif not path.exists() or path.read_text() != made():
            stale.append(name)
    if stale:
        print(f"out of date: {', '.join(stale)}; run --write")
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
