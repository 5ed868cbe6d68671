"""The first tables, frozen here: later changes of models.py do not reach back. Issued revisions are guarded."""

from peewee import (
    AutoField,
    BooleanField,
    CharField,
    DateTimeField,
    ForeignKeyField,
    IntegerField,
    Model,
    TextField,
)


class LongTextField(TextField):
    field_type = "LONGTEXT"


class User(Model):
    id = AutoField()
    login = CharField(60, unique=True)
    name = CharField(120)
    password_hash = CharField(255)
    active = BooleanField(default=True)
    created_at = DateTimeField()

    class Meta:
        legacy_table_names = False


class Job(Model):
    id = AutoField()
    name = CharField(160)
    rules = CharField(20)
    facts = LongTextField()
    version = IntegerField(default=1)
    created_at = DateTimeField()

    class Meta:
        legacy_table_names = False


class Membership(Model):
    id = AutoField()
    job = ForeignKeyField(Job)
    user = ForeignKeyField(User)
    role = CharField(20)

    class Meta:
        legacy_table_names = False
        indexes = ((("job", "user"), True),)


class Circuit(Model):
    id = AutoField()
    job = ForeignKeyField(Job)
    tag = CharField(40)
    facts = LongTextField()
    version = IntegerField(default=1)
    summary = LongTextField(null=True)
    summary_key = CharField(80, null=True)
    updated_at = DateTimeField()

    class Meta:
        legacy_table_names = False
        indexes = ((("job", "tag"), True),)


class Save(Model):
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

    class Meta:
        legacy_table_names = False
        indexes = ((("job", "circuit", "id"), False),)


class Revision(Model):
    id = AutoField()
    circuit = ForeignKeyField(Circuit)
    number = IntegerField()
    rules = CharField(20)
    facts = LongTextField()
    plan = LongTextField()
    program_version = CharField(20)
    note = CharField(400)
    issued_by = ForeignKeyField(User)
    issued_at = DateTimeField()

    class Meta:
        legacy_table_names = False
        indexes = ((("circuit", "number"), True),)


class Review(Model):
    id = AutoField()
    revision = ForeignKeyField(Revision)
    user = ForeignKeyField(User)
    accepted = BooleanField()
    note = CharField(400)
    reviewed_at = DateTimeField()

    class Meta:
        legacy_table_names = False


class Trail(Model):
    id = AutoField()
    job = ForeignKeyField(Job, null=True)
    circuit = ForeignKeyField(Circuit, null=True)
    user = ForeignKeyField(User)
    action = CharField(40)
    detail = CharField(400)
    at = DateTimeField()

    class Meta:
        legacy_table_names = False
        indexes = ((("job", "id"), False),)


_TABLES = [User, Job, Membership, Circuit, Save, Revision, Review, Trail]


def up(migrator, db):
    with db.bind_ctx(_TABLES):
        db.create_tables(_TABLES)
    for event in ("UPDATE", "DELETE"):
        db.execute_sql(
            f"CREATE TRIGGER revision_keeps_{event.lower()} BEFORE {event} ON revision FOR EACH ROW "
            "SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'an issued revision never changes'"
        )


def down(migrator, db):
    with db.bind_ctx(_TABLES):
        db.drop_tables(_TABLES)
