"""What goes to paper: words and numbers as the screen says them, in the user's own units."""

from typing import Annotated, Literal

from ninja import Schema
from pydantic import Field, StringConstraints

from varistrat.core.design.document import Document

Words = Annotated[str, StringConstraints(max_length=4000)]
Short = Annotated[str, StringConstraints(max_length=400)]
Few = Annotated[list[Words], Field(max_length=60)]
Paper = Literal["a4", "letter"]


class TargetSaidIn(Schema):
    name: Short
    text: Short
    tolerance: Short = ""


class CheckSaidIn(Schema):
    ask: Words
    good: Words


class OperationSaidIn(Schema):
    """See core/paper/sheet.py."""

    title: Short
    say: Words
    place: Short = ""
    minutes: Short = ""
    by_heat: Few = []
    lay_out: Words = ""
    cautions: Few = []
    targets: list[TargetSaidIn] = Field([], max_length=40)
    checks: list[CheckSaidIn] = Field([], max_length=40)
    timers: Few = []


class PieceSaidIn(Schema):
    says: Short
    section: Short
    length: Short
    count: Short


class SheetIn(Schema):
    title: Short
    operations: list[OperationSaidIn] = Field(max_length=600)
    pieces: list[PieceSaidIn] = Field([], max_length=600)
    lines: Few = []
    about: Short = ""
    paper: Paper = "a4"


class TemplateIn(Schema):
    document: Document
    title: Short
    paper: Paper = "a4"
