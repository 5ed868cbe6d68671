"""Accounts and sign-in."""

from __future__ import annotations

from datetime import UTC, datetime

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from peewee import IntegrityError

from vinegate.store.database import transaction
from vinegate.store.models import User

SHORTEST_PASSWORD = 10
_hasher = PasswordHasher()
_NOBODY = _hasher.hash("no account has this password")


class LoginTaken(ValueError):
    """Another account has this login."""


def now() -> datetime:
    """The time as the store writes it: UTC, without zone, whole seconds."""
    return datetime.now(UTC).replace(tzinfo=None, microsecond=0)


@transaction
def create_user(*, login: str, name: str, password: str) -> User:
    """A new account. Raises LoginTaken."""
    try:
        return User.create(login=login, name=name, password_hash=_hasher.hash(password), created_at=now())
    except IntegrityError:
        raise LoginTaken(login) from None


def authenticate(login: str, password: str) -> User | None:
    """The account of this login and password. Takes as long for a login that does not exist."""
    user = User.get_or_none((User.login == login) & User.active)
    try:
        _hasher.verify(user.password_hash if user else _NOBODY, password)
    except (VerificationError, InvalidHashError):
        return None
    return user


def user_by_id(user_id: int) -> User | None:
    return User.get_or_none((User.id == user_id) & User.active)


def user_by_login(login: str) -> User | None:
    return User.get_or_none((User.login == login) & User.active)


def any_user() -> bool:
    return bool(User.select().exists())
