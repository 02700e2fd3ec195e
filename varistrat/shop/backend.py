"""Who is signed in, fetched together with the shop where they are at work: both are asked for at every request."""

from django.contrib.auth.backends import ModelBackend
from django.contrib.auth.models import User

from varistrat.shop.services.people import at_work


class AtWork(ModelBackend):
    """Signs in by a password; the person has a `member`, unless they are in no shop yet."""

    def get_user(self, user_id: int) -> User | None:
        found = at_work(user_id)
        if found is None:
            alone: User | None = super().get_user(user_id)
            return alone
        if not self.user_can_authenticate(found.user):
            return None
        found.user.member = found  # type: ignore[attr-defined]
        return found.user
