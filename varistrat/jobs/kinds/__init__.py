"""All kinds of jobs, by key."""

from typing import Annotated, Any

from pydantic import Field

from varistrat.jobs.kinds.base import Kind
from varistrat.jobs.kinds.family_study import FamilyAbout, FamilyOrder, FamilyResult, FamilyStudy
from varistrat.jobs.kinds.looks import Looks, LooksAbout, LooksOrder, LooksResult
from varistrat.jobs.kinds.print_face import PrintAbout, PrintFace, PrintOrder
from varistrat.jobs.kinds.what_if import SheetAbout, SheetOrder, WhatIf

KINDS: dict[str, Kind[Any]] = {k.key: k for k in (PrintFace(), WhatIf(), Looks(), FamilyStudy())}
AnyOrder = Annotated[PrintOrder | SheetOrder | LooksOrder | FamilyOrder, Field(discriminator="kind")]
AnyAbout = Annotated[PrintAbout | SheetAbout | LooksAbout | FamilyAbout, Field(discriminator="kind")]
AnyResult = Annotated[LooksResult | FamilyResult, Field(discriminator="kind")]
"""Of those kinds that come to more than files; while one runs: as far as it is."""
