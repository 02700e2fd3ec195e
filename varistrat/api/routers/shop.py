"""The shop where one is at work, its people, invites, and one's other shops."""

from django.contrib.auth.models import User
from django.http import HttpRequest
from ninja import Router

from varistrat.accounts.services import sign_in as paced
from varistrat.accounts.services.browsers import let_in
from varistrat.api.auth import anyone, asker, helper, owner
from varistrat.api.errors import Refused
from varistrat.api.schemas import PROBLEMS
from varistrat.api.schemas.shop import InvitedOut, InviteOut, JoinIn, NewInviteOut, PeopleOut, PersonOut, RoleIn, ShopNameIn, ShopOut
from varistrat.shop.models import Invite, Membership, Role
from varistrat.shop.services import people

router = Router(tags=["shop"], auth=helper)


def shop_out(member: Membership) -> ShopOut:
    return ShopOut(id=member.shop_id, name=member.shop.name, role=Role(member.role))


def _invite(found: Invite) -> InviteOut:
    return InviteOut(id=found.pk, role=Role(found.role), by=found.by.get_username() if found.by else "", expires=found.expires)


def _people(member: Membership) -> PeopleOut:
    return PeopleOut(
        people=[
            PersonOut(id=p.pk, name=p.user.get_username(), role=Role(p.role), since=p.since, me=p.pk == member.pk)
            for p in people.people_of(member.shop)
        ],
        invites=[_invite(i) for i in people.invites_of(member.shop)] if member.may(Role.OWNER) else [],
    )


@router.get("/shop/people", response={200: PeopleOut, **PROBLEMS})
def at_work(request: HttpRequest) -> PeopleOut:
    return _people(asker(request))


@router.patch("/shop", response={200: ShopOut, **PROBLEMS}, auth=owner)
def rename(request: HttpRequest, asked: ShopNameIn) -> ShopOut:
    people.rename_shop(actor=asker(request), name=asked.name)
    return shop_out(asker(request))


@router.put("/shop/people/{person_id}", response={200: PeopleOut, **PROBLEMS}, auth=owner)
def set_role(request: HttpRequest, person_id: int, asked: RoleIn) -> PeopleOut:
    changed = people.set_role(actor=asker(request), person_id=person_id, role=asked.role)
    # one's own role may just have become another
    return _people(changed if changed.pk == asker(request).pk else asker(request))


@router.delete("/shop/people/{person_id}", response={200: PeopleOut, **PROBLEMS}, auth=owner)
def send_away(request: HttpRequest, person_id: int) -> PeopleOut:
    """What they made stays with the shop."""
    if person_id == asker(request).pk:
        raise Refused(409, "yourself", "To go yourself, leave the shop.")
    people.send_away(actor=asker(request), person_id=person_id)
    return _people(asker(request))


@router.post("/shop/leave", response={200: ShopOut, **PROBLEMS})
def leave(request: HttpRequest) -> ShopOut:
    """Go; the shop where one is at work from now on. What one made stays."""
    user = asker(request).user
    people.leave(actor=asker(request))
    return shop_out(people.member_of(user))


@router.post("/shop/invites", response={201: NewInviteOut, **PROBLEMS}, auth=owner)
def invite(request: HttpRequest, asked: RoleIn) -> tuple[int, NewInviteOut]:
    """A link that works once, for a few days; its secret part is told now and never again."""
    token, made = people.invite(actor=asker(request), role=asked.role)
    return 201, NewInviteOut(token=token, **_invite(made).dict())


@router.delete("/shop/invites/{invite_id}", response={200: PeopleOut, **PROBLEMS}, auth=owner)
def take_back(request: HttpRequest, invite_id: int) -> PeopleOut:
    people.take_back(actor=asker(request), invite_id=invite_id)
    return _people(asker(request))


@router.post("/shops/{shop_id}/choose", response={200: ShopOut, **PROBLEMS})
def choose(request: HttpRequest, shop_id: int) -> ShopOut:
    """Go to work in another of one's shops."""
    return shop_out(people.choose_shop(user=asker(request).user, shop_id=shop_id))


@router.get("/invites/{token}", response={200: InvitedOut, **PROBLEMS}, auth=None)
def invited(request: HttpRequest, token: str) -> InvitedOut:
    found = people.open_invite(token[:200])
    there = request.user.is_authenticated and found.shop.people.filter(user=request.user.pk).exists()
    return InvitedOut(
        shop=found.shop.name, role=Role(found.role), by=found.by.get_username() if found.by else "", expires=found.expires, there=there
    )


@router.post("/invites/{token}/join", response={200: ShopOut, **PROBLEMS}, auth=anyone)
def join(request: HttpRequest, token: str, asked: JoinIn) -> ShopOut:
    """Whoever is signed in joins; anybody else says a name and a password and is a person from then on."""
    if isinstance(request.user, User):
        return shop_out(people.join(user=request.user, token=token[:200]))
    with paced.turn():
        joined = people.join_as_new(token=token[:200], name=asked.user or "", password=asked.password or "")
    let_in(request, joined.user, "varistrat.shop.backend.AtWork")
    return shop_out(joined)
