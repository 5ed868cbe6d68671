"""Accounts and sign-in."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta
from functools import cache
from typing import Final

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from peewee import IntegrityError

from vinegate.store.database import transaction
from vinegate.store.models import Attempt, User
from vinegate.store.prepared import Prepared

SHORTEST_PASSWORD = 10
LOGIN = re.compile(r"[a-z0-9][a-z0-9._-]{1,39}")
_WINDOW = timedelta(minutes=15)
_MOST_OF_LOGIN, _MOST_OF_ADDRESS = 10, 40
_hasher = PasswordHasher()


class BadAccount(ValueError):
    """A login, name or password that no account may have; `str()` says why."""


class TooManyTries(RuntimeError):
    """Sign-ins failed too often for this login or from this address; `str()` says for how long."""


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


def checked(login: str, name: str, password: str) -> None:
    """Raises BadAccount."""
    if not LOGIN.fullmatch(login):
        raise BadAccount("a login has 2 to 40 small letters, digits and . _ -, the first a letter or digit")
    if not name.strip():
        raise BadAccount("an account needs a name")
    if len(password) < SHORTEST_PASSWORD:
        raise BadAccount(f"a password has {SHORTEST_PASSWORD} characters or more")
    if len(set(password)) < 5 or login in password.lower() or password.lower() in name.lower():
        raise BadAccount("this password is too easily guessed")


@transaction
def set_password(user: User, password: str) -> User:
    """A new password; every session of the old one ends. Raises BadAccount."""
    checked(user.login, user.name, password)
    User.update(password_hash=_hasher.hash(password), sessions=User.sessions + 1).where(User.id == user.id).execute()
    return User.get_by_id(user.id)


@transaction
def end_sessions(user: User) -> None:
    """Wherever this person is signed in, they are signed out."""
    User.update(sessions=User.sessions + 1).where(User.id == user.id).execute()


@transaction
def change_user(login: str, *, name: str | None = None, active: bool | None = None) -> User:
    """Another name, or no longer let in: a person leaves, what they did stays theirs. Raises BadAccount."""
    user = User.get_or_none(User.login == login)
    if user is None:
        raise BadAccount(f"there is no account {login}")
    changes: dict[str, object] = {} if name is None else {"name": name}
    if active is not None:
        changes |= {"active": active, "sessions": User.sessions + 1}
    if changes:
        User.update(changes).where(User.id == user.id).execute()
    return User.get_by_id(user.id)


def may_try(login: str, address: str) -> None:
    """Raises TooManyTries: counted in the database, so over all processes."""
    since = now() - _WINDOW
    recent = Attempt.select().where(Attempt.at > since)
    if (
        recent.where(Attempt.login == login[:60]).count() >= _MOST_OF_LOGIN
        or recent.where(Attempt.address == address[:60]).count() >= _MOST_OF_ADDRESS
    ):
        raise TooManyTries("Too many sign-ins failed: try again in a quarter of an hour.")


@transaction
def failed(login: str, address: str) -> None:
    """Remember a sign-in that failed; forget those of yesterday."""
    Attempt.create(login=login[:60], address=address[:60], at=now())
    Attempt.delete().where(Attempt.at < now() - timedelta(days=1)).execute()


@cache
def _nobody() -> str:
    """What the password is held against where there is no account."""
    return _hasher.hash("no account has this password")


def authenticate(login: str, password: str) -> User | None:
    """The account of this login and password. Takes as long for a login that does not exist."""
    user, nobody = User.get_or_none((User.login == login) & User.active), _nobody()
    try:
        _hasher.verify(user.password_hash if user else nobody, password)
    except (VerificationError, InvalidHashError):
        return None
    return user


_BY_ID: Final = Prepared[User](lambda user: User.select().where((User.id == user) & User.active))


def user_by_id(user_id: int) -> User | None:
    return _BY_ID.first(user_id)


def user_by_login(login: str) -> User | None:
    return User.get_or_none((User.login == login) & User.active)


def any_user() -> bool:
    return bool(User.select().exists())
