"""The account over HTTP: who is signed in."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema
from ninja.security import SessionAuth

from accounts.models import Account
from accounts.ownership import cook_id

router = Router()

# The page says with each request whose page it is.
OWNER_HEADER = "X-Mattone-Owner"


class OtherCookError(Exception):
    """The page of one cook asked while another is signed in on the device."""

    def __init__(self) -> None:
        super().__init__("Somebody else is signed in on this device now. Sign in again.")


class CookAuth(SessionAuth):
    """A signed-in cook; a page that was opened by another cook is refused."""

    def authenticate(self, request: HttpRequest, key: str | None) -> object | None:
        if not request.user.is_authenticated:
            return None
        owner = request.headers.get(OWNER_HEADER)
        if owner is not None and owner != str(request.user.pk):
            raise OtherCookError
        return request.user


class MeOut(Schema):
    """owner: a stable name for the cook's things in the browser. device_key: what they are encrypted with there, hex."""

    email: str
    owner: str
    device_key: str


@router.get("", response=MeOut)
def me(request: HttpRequest) -> MeOut:
    account, _ = Account.objects.get_or_create(user_id=cook_id(request))
    return MeOut(email=account.user.email, owner=str(account.user_id), device_key=account.device_key)
