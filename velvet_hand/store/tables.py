"""What is kept. ``event`` is append-only (a trigger refuses anything else); ``setup`` is derived."""

from __future__ import annotations

from peewee import BlobField, BooleanField, CompositeKey, ForeignKeyField, IntegerField, Model, TextField, UUIDField
from playhouse.postgres_ext import BinaryJSONField, DateTimeTZField

from .database import proxy


class Base(Model):
    """Every table."""

    class Meta:
        """Bound when the store connects."""

        database = proxy
        legacy_table_names = False


class ShopItem(Base):
    """A machine, holder, gauge or drawer of stock: ``body`` is the core model."""

    id = TextField(primary_key=True)
    kind = TextField()
    name = TextField()
    body = BinaryJSONField(index=False)
    changed_at = DateTimeTZField()

    class Meta:
        """One name once in its kind."""

        table_name = "shop_item"
        indexes = ((("kind", "name"), True),)


class Setup(Base):
    """Projection of a set-up for lists and search, made anew from its events when its form (``projected``) is an old one."""

    id = UUIDField(primary_key=True)
    seq = IntegerField()
    standing = BooleanField(index=True)
    machine_id = TextField()
    machine = TextField()
    holder = TextField()
    holder_id = TextField(default="")
    gauge_id = TextField(default="")
    hand = TextField(default="")
    procedure = TextField(default="")
    lesson = BinaryJSONField(index=False, null=True)
    account = BinaryJSONField(index=False, null=True)
    outcome = TextField(null=True)
    search = TextField()
    summary = BinaryJSONField(index=False)
    opened_at = DateTimeTZField()
    changed_at = DateTimeTZField()
    projected = IntegerField(default=1)


class EventRow(Base):
    """One event. ``seq`` counts 1, 2, 3 ... within a set-up; ``id`` is the client's."""

    setup = ForeignKeyField(Setup, column_name="setup_id", backref="events")
    seq = IntegerField()
    id = UUIDField(unique=True)
    at = DateTimeTZField()
    received_at = DateTimeTZField()
    author = TextField()
    body = BinaryJSONField(index=False)
    extra = BinaryJSONField(index=False)

    class Meta:
        """One event at one place."""

        table_name = "event"
        primary_key = CompositeKey("setup", "seq")


class PhotoRow(Base):
    """A photo of a set-up, as JPEG."""

    id = UUIDField(primary_key=True)
    setup = ForeignKeyField(Setup, column_name="setup_id", backref="photos")
    at = DateTimeTZField()
    author = TextField()
    width = IntegerField()
    height = IntegerField()
    jpeg = BlobField()

    class Meta:
        """One table."""

        table_name = "photo"


class JobRow(Base):
    """A part with its operations: ``body`` is the core model."""

    id = UUIDField(primary_key=True)
    name = TextField()
    body = BinaryJSONField(index=False)
    changed_at = DateTimeTZField()

    class Meta:
        """One table."""

        table_name = "job"


class PracticeRow(Base):
    """A practice: how it was begun, and how it ended."""

    id = UUIDField(primary_key=True)
    author = TextField()
    told = BinaryJSONField(index=False)
    began_at = DateTimeTZField()
    ended_at = DateTimeTZField(null=True)
    result = BinaryJSONField(index=False, null=True)

    class Meta:
        """One table."""

        table_name = "practice"


class PracticeActRow(Base):
    """What was done in a practice, in order."""

    practice = UUIDField()
    seq = IntegerField()
    id = UUIDField(unique=True)
    act = BinaryJSONField(index=False)

    class Meta:
        """One table."""

        table_name = "practice_act"
        primary_key = CompositeKey("practice", "seq")


#: The form of a set-up's projection; older ones are made anew when the store starts.
PROJECTION = 5


def out_of_date() -> bool:
    """Is there a projection of an older form?"""
    return bool(Setup.select().where(Setup.projected < PROJECTION).exists())


def nothing_yet() -> bool:
    """Has nobody put anything in?"""
    return not (ShopItem.select().exists() or Setup.select().exists())


ALL = (ShopItem, Setup, EventRow, PhotoRow, JobRow)
