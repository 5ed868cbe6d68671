"""Commands over accounts."""

from __future__ import annotations

import argparse
import getpass
import json
import sys
from pathlib import Path
from typing import Any

from vinegate.cli.keeping import connected, url_of
from vinegate.cli.reading import Commands, say, written


def add(commands: Commands) -> None:
    """`user add`, `user export`, `user deactivate`, `user activate`, `user rename`."""
    user = commands.add_parser("user", help="accounts").add_subparsers(required=True, metavar="ACTION")
    new = user.add_parser("add", help="make an account; the password is asked for")
    new.add_argument("login")
    new.add_argument("--name", required=True)
    new.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
    new.set_defaults(run=_user_add)
    data = user.add_parser("export", help="all that is kept of a person, as JSON")
    data.add_argument("login")
    data.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
    data.add_argument("-o", "--output", type=Path, metavar="FILE", help="else stdout")
    data.set_defaults(run=_user_export)
    for word, text in (
        ("deactivate", "let a person in no longer"),
        ("activate", "let a person in again"),
        ("rename", "another name"),
    ):
        one = user.add_parser(word, help=text)
        one.add_argument("login")
        if word == "rename":
            one.add_argument("--name", required=True)
        one.add_argument("--data", type=Path, default=Path("var"), metavar="DIR")
        one.set_defaults(run=_user_change, word=word)


def _user_export(options: argparse.Namespace) -> int:
    from vinegate.store import own_data
    from vinegate.store.database import connect_to, database

    url = url_of(options.data)
    if not url:
        return 1
    connect_to(url)
    with database.connection_context():
        found = own_data.of_person(options.login)
    if found is None:
        say(f"there is no login {options.login}")
        return 1
    return written(json.dumps(found, ensure_ascii=False, indent=1) + "\n", options.output)


def _user_change(options: argparse.Namespace) -> int:
    from vinegate.store import accounts
    from vinegate.store.database import connect_to, database

    url = url_of(options.data)
    if not url:
        return 1
    connect_to(url)
    changes: dict[str, Any] = (
        {"name": options.name} if options.word == "rename" else {"active": options.word == "activate"}
    )
    with database.connection_context():
        try:
            user = accounts.change_user(options.login, **changes)
        except accounts.BadAccount as error:
            say(str(error))
            return 1
    print(f"{user.login}: {user.name}{'' if user.active else ', not let in'}")
    return 0


def _user_add(options: argparse.Namespace) -> int:
    from vinegate.store import accounts
    from vinegate.store.database import database

    if not url_of(options.data):
        return 1
    password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
    try:
        accounts.checked(options.login, options.name, password)
    except accounts.BadAccount as error:
        say(str(error))
        return 1
    if not connected(options.data):
        return 1
    with database.connection_context():
        try:
            accounts.create_user(login=options.login, name=options.name, password=password)
        except accounts.LoginTaken:
            say(f"the login {options.login} is taken")
            return 1
    print(f"{options.name} can sign in as {options.login}.")
    return 0
