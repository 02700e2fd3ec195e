"""The JSON Schemas of the recipe and blade files, made from the models and published in docs/."""

import json
import sys
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from varistrat.core.bars.recipe import Recipe
from varistrat.core.blade.model import Blade

SCHEMAS: dict[str, type[BaseModel]] = {"recipe.schema.json": Recipe, "blade.schema.json": Blade}


def schema_text(name: str) -> str:
    """The schema file's text; `name` from SCHEMAS."""
    schema: dict[str, Any] = {"$schema": "https://json-schema.org/draft/2020-12/schema"}
    schema |= SCHEMAS[name].model_json_schema(by_alias=True)
    return json.dumps(schema, indent=1, sort_keys=True) + "\n"


def main(args: list[str]) -> int:
    """--write DIR or --check DIR."""
    if len(args) != 2 or args[0] not in ("--write", "--check"):
        raise SystemExit("usage: --write DIR | --check DIR")
    stale = []
    for name in SCHEMAS:
        path = Path(args[1]) / name
        if args[0] == "--write":
            path.write_text(schema_text(name))
        elif not path.exists() or path.read_text() != schema_text(name):
            stale.append(name)
    if stale:
        print(f"out of date: {', '.join(stale)}; run --write")
    return 1 if stale else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
