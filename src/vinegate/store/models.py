"""The tables. A change here needs a migration in migrations/."""

from __future__ import annotations

from enum import StrEnum

from peewee import (
    AutoField,
    BlobField,
    BooleanField,
    CharField,
    DateTimeField,
    ForeignKeyField,
    IntegerField,
    Model,
    TextField,
)

from vinegate.store.database import database


class Role(StrEnum):
    """What a member may do in a job. Designers edit and issue, electricians record, reviewers check, viewers read."""

    DESIGNER = "designer"
    ELECTRICIAN = "electrician"
    REVIEWER = "reviewer"
    VIEWER = "viewer"


class LongTextField(TextField):
    """JSON as text: the readers own its shape, and the database keeps it as it was written."""

    field_type = "LONGTEXT"


class LongBlobField(BlobField):
    """A capture's or photo's bytes."""

    field_type = "LONGBLOB"


class Table(Model):
    class Meta:
        database = database
        legacy_table_names = False


class User(Table):
    id = AutoField()
    login = CharField(60, unique=True)
    name = CharField(120)
    password_hash = CharField(255)
    active = BooleanField(default=True)
    sessions = IntegerField(default=1)
    """Counted up when a password changes or one signs out: sessions of an older number have ended."""
    created_at = DateTimeField()


class Job(Table):
    id = AutoField()
    name = CharField(160)
    rules = CharField(20)
    facts = LongTextField()
    version = IntegerField(default=1)
    created_at = DateTimeField()
    deleted_at = DateTimeField(null=True)
    mapping = LongTextField(null=True)
    """How its spreadsheets' columns were last read: head to path."""
    held = IntegerField(default=0)
    """Counted up by whoever keeps others from it: in a cluster only a write does that on every node."""


class Membership(Table):
    id = AutoField()
    job = ForeignKeyField(Job, backref="memberships")
    user = ForeignKeyField(User, backref="memberships")
    role = CharField(20)

    class Meta:
        indexes = ((("job", "user"), True),)


class Circuit(Table):
    id = AutoField()
    job = ForeignKeyField(Job, backref="circuits")
    tag = CharField(40)
    facts = LongTextField()
    version = IntegerField(default=1)
    summary = LongTextField(null=True)
    summary_key = CharField(120, null=True)
    summary_reads = LongTextField(null=True)
    updated_at = DateTimeField()
    deleted_at = DateTimeField(null=True)
    held = IntegerField(default=0)

    class Meta:
        indexes = ((("job", "tag"), True),)


class Save(Table):
    """One saved change of a draft: what was written, and what was set aside because another was first."""

    id = AutoField()
    job = ForeignKeyField(Job)
    circuit = ForeignKeyField(Circuit, null=True)
    user = ForeignKeyField(User)
    page = CharField(40)
    sequence = IntegerField()
    job_version = IntegerField()
    circuit_version = IntegerField(null=True)
    changes = LongTextField()
    set_aside = LongTextField()
    saved_at = DateTimeField()
    of_job = BooleanField(default=True)
    """Whether it changed, or set aside, a fact of the job; of those kept before this was noted it is taken so."""

    class Meta:
        indexes = ((("job", "circuit", "id"), False), (("job", "of_job", "id"), False))


class Revision(Table):
    """An issued plan. The database refuses to change or delete it (triggers in the first migration)."""

    id = AutoField()
    circuit = ForeignKeyField(Circuit, backref="revisions")
    number = IntegerField()
    rules = CharField(20)
    facts = LongTextField()
    plan = LongTextField()
    program_version = CharField(20)
    note = CharField(400)
    issued_by = ForeignKeyField(User)
    issued_at = DateTimeField()

    class Meta:
        indexes = ((("circuit", "number"), True),)

    @property
    def letter(self) -> str:
        return revision_letter(self.number)


class Review(Table):
    """A reviewer's word on a revision: added beside it, never in it."""

    id = AutoField()
    revision = ForeignKeyField(Revision, backref="reviews")
    user = ForeignKeyField(User)
    accepted = BooleanField()
    note = CharField(400)
    reviewed_at = DateTimeField()


class Paper(Table):
    """The PDF of a revision as it was last written, by the digest of its page: made again where it is not there."""

    revision = ForeignKeyField(Revision, primary_key=True)
    digest = CharField(64)
    body = LongBlobField()


class Comment(Table):
    """A reviewer's question on a figure or gate of an issued plan; answered, then closed, before it is accepted."""

    id = AutoField()
    revision = ForeignKeyField(Revision, backref="comments")
    subject = CharField(120)
    text = CharField(1000)
    user = ForeignKeyField(User)
    at = DateTimeField()
    answer = CharField(1000, null=True)
    answered_by = ForeignKeyField(User, null=True, backref="+")
    closed_at = DateTimeField(null=True)


class Token(Table):
    """What a person's programs come with: kept as its digest alone, with an end, revoked at once."""

    id = AutoField()
    user = ForeignKeyField(User, backref="tokens")
    name = CharField(80)
    digest = CharField(64, unique=True)
    writes = BooleanField(default=False)
    created_at = DateTimeField()
    ends_at = DateTimeField()
    revoked_at = DateTimeField(null=True)


class Asked(Table):
    """What a program asked with a key of its own, and the answer: 0 as its status while it is being worked."""

    id = AutoField()
    token = ForeignKeyField(Token)
    word = CharField(80)
    digest = CharField(64)
    status = IntegerField()
    body = LongTextField()
    at = DateTimeField()

    class Meta:
        indexes = ((("token", "word"), True),)


class Link(Table):
    """One link of a job's chain over what never changes: see chain.py."""

    id = AutoField()
    job = ForeignKeyField(Job)
    kind = CharField(20)
    row = IntegerField()
    digest = CharField(64)

    class Meta:
        indexes = ((("job", "kind", "row"), True),)


class Attempt(Table):
    """A sign-in that failed: by login and by address, over all processes."""

    id = AutoField()
    login = CharField(60)
    address = CharField(60)
    at = DateTimeField()


class Presence(Table):
    """A page on which a person has a circuit open."""

    id = AutoField()
    circuit = ForeignKeyField(Circuit)
    page = CharField(40)
    user = ForeignKeyField(User)
    at = DateTimeField()

    class Meta:
        indexes = ((("circuit", "page"), True),)


class Entry(Table):
    """One form as it was filled in where the motor stands. The database refuses to change or delete it.

    `uid` is made by the page that took it: the same entry sent again is the same row. `revision` is the number of the
    issued plan it was held against; 0 while there was none.
    """

    id = AutoField()
    circuit = ForeignKeyField(Circuit, backref="entries")
    uid = CharField(40)
    form = CharField(40)
    readings = LongTextField()
    simulated = BooleanField(default=False)
    revision = IntegerField(default=0)
    taken_at = DateTimeField()
    user = ForeignKeyField(User)
    received_at = DateTimeField()

    class Meta:
        indexes = ((("circuit", "uid"), True), (("circuit", "form", "taken_at"), False))


class Photo(Table):
    """A picture beside an entry: made smaller, without its metadata."""

    id = AutoField()
    entry = ForeignKeyField(Entry, backref="photos")
    uid = CharField(40)
    jpeg = LongBlobField()

    class Meta:
        indexes = ((("entry", "uid"), True),)


class Capture(Table):
    """A recorder's file, whole and pressed, with how its channels were read; what follows from both is worked anew."""

    id = AutoField()
    circuit = ForeignKeyField(Circuit, backref="captures")
    uid = CharField(40)
    name = CharField(200)
    body = LongBlobField()
    size = IntegerField()
    mapping = LongTextField()
    simulated = BooleanField(default=False)
    revision = IntegerField(default=0)
    program_version = CharField(20)
    user = ForeignKeyField(User)
    received_at = DateTimeField()

    class Meta:
        indexes = ((("circuit", "uid"), True),)


class Trail(Table):
    """Who did what."""

    id = AutoField()
    job = ForeignKeyField(Job, null=True)
    circuit = ForeignKeyField(Circuit, null=True)
    user = ForeignKeyField(User)
    action = CharField(40)
    detail = CharField(400)
    at = DateTimeField()

    class Meta:
        indexes = ((("job", "id"), False),)


def id_of(row: Table, field: str) -> int | None:
    """The id that a foreign key holds, without asking the database for what it points at."""
    found: int | None = row.__data__.get(field)
    return found


TABLES = (
    User,
    Job,
    Membership,
    Circuit,
    Save,
    Revision,
    Review,
    Trail,
    Comment,
    Attempt,
    Token,
    Link,
    Entry,
    Photo,
    Capture,
    Presence,
    Asked,
    Paper,
)


def revision_letter(number: int) -> str:
    """A, B … Z, AA, AB … as drawings are lettered.

    >>> [revision_letter(n) for n in (1, 2, 26, 27, 52, 53)]
    ['A', 'B', 'Z', 'AA', 'AZ', 'BA']
    """
    letters = ""
    while number > 0:
        number, rest = divmod(number - 1, 26)
        letters = chr(ord("A") + rest) + letters
    return letters
