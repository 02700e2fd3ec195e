"""Shops, their people, invites."""

from datetime import datetime

from ninja import Schema
from pydantic import Field

from varistrat.shop.models import Role


class ShopOut(Schema):
    """One of the asker's shops, and the asker's role there."""

    id: int
    name: str
    role: Role


class PersonOut(Schema):
    id: int
    name: str
    role: Role
    since: datetime
    me: bool


class InviteOut(Schema):
    id: int
    role: Role
    by: str
    expires: datetime


class NewInviteOut(InviteOut):
    """`token` is told this once."""

    token: str


class PeopleOut(Schema):
    """Invites only for owners."""

    people: list[PersonOut]
    invites: list[InviteOut]


class ShopNameIn(Schema):
    name: str = Field(min_length=1, max_length=120)


class RoleIn(Schema):
    role: Role


class InvitedOut(Schema):
    """What an invite says to whoever opens its link; `there`: the asker is in that shop already."""

    shop: str
    role: Role
    by: str
    expires: datetime
    there: bool


class JoinIn(Schema):
    """A new person's name and password; neither for one who is signed in."""

    user: str | None = Field(None, max_length=150)
    password: str | None = Field(None, max_length=200)
