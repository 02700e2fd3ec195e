"""All kinds of jobs, by key."""

from typing import Annotated, Any

from pydantic import Field

from varistrat.jobs.kinds.base import Kind
from varistrat.jobs.kinds.print_face import PrintAbout, PrintFace, PrintOrder
from varistrat.jobs.kinds.what_if import SheetAbout, SheetOrder, WhatIf

KINDS: dict[str, Kind[Any]] = {k.key: k for k in (PrintFace(), WhatIf())}
AnyOrder = Annotated[PrintOrder | SheetOrder, Field(discriminator="kind")]
AnyAbout = Annotated[PrintAbout | SheetAbout, Field(discriminator="kind")]
