"""The API as it describes itself: the file in docs/, which a check holds against the routes. Made anew it takes ten seconds."""

import json
from functools import cache
from pathlib import Path
from typing import Any

FILE = Path(__file__).resolve().parents[1] / "docs" / "openapi.json"


@cache
def described() -> dict[str, Any]:
    """As OpenAPI; not to be changed."""
    found: dict[str, Any] = json.loads(FILE.read_text())
    return found
