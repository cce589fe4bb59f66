"""The account over HTTP: who is signed in."""

from __future__ import annotations

from typing import Annotated

from allauth.usersessions.models import UserSession
from django.contrib.auth import logout
from django.contrib.auth.models import User
from django.http import HttpRequest
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel
from ninja import Router, Schema, Status
from ninja.security import SessionAuth
from pydantic import Field

from accounts.models import Account
from accounts.ownership import cook_id
from accounts.rate import too_many

router = Router()

# The page says with each request whose page it is.
DELETIONS_A_MINUTE = 5
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


class DeleteIn(StrictModel):
    """The password, once more."""

    password: Annotated[str, Field(min_length=1, max_length=200)]


@router.post("/delete", response={204: None})
def delete_account(request: HttpRequest, body: DeleteIn) -> Status[None]:
    """The account and everything in it, at once and for good; the password is asked for, and guesses are counted."""
    if too_many(f"delete account {cook_id(request)}", 1, DELETIONS_A_MINUTE):
        raise InputError("password", "Too many tries. Wait a few minutes, then try again.")
    cook = User.objects.get(pk=cook_id(request))
    if not cook.check_password(body.password):
        raise InputError("password", "This is not your password.")
    logout(request)
    UserSession.objects.filter(user_id=cook.pk).delete()
    cook.delete()
    return Status(204, None)


@router.get("", response=MeOut)
def me(request: HttpRequest) -> MeOut:
    account, _ = Account.objects.get_or_create(user_id=cook_id(request))
    return MeOut(email=account.user.email, owner=str(account.user_id), device_key=account.device_key)
