"""The mark of what two may change at once."""

from typing import Annotated

from pydantic import Field

Base = Annotated[str, Field(max_length=16)]
"""The mark that something had when who changes it looked at it; empty: it is changed as it stands."""
