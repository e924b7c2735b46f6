"""Shop, set-ups, and the append-only event log."""

from peewee import BooleanField, CompositeKey, ForeignKeyField, IntegerField, Model, TextField, UUIDField
from playhouse.postgres_ext import BinaryJSONField, DateTimeTZField

APPEND_ONLY = """
CREATE FUNCTION event_is_append_only() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'events are only ever added';
END $$;
CREATE TRIGGER event_append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON event
    EXECUTE FUNCTION event_is_append_only();
"""


def up(migrator, db):
    class Base(Model):
        class Meta:
            database = db
            legacy_table_names = False

    class ShopItem(Base):
        id = TextField(primary_key=True)
        kind = TextField()
        name = TextField()
        body = BinaryJSONField(index=False)
        changed_at = DateTimeTZField()

        class Meta:
            table_name = "shop_item"
            indexes = ((("kind", "name"), True),)

    class Setup(Base):
        id = UUIDField(primary_key=True)
        seq = IntegerField()
        standing = BooleanField(index=True)
        machine_id = TextField(index=True)
        machine = TextField()
        holder = TextField()
        outcome = TextField(null=True)
        search = TextField()
        summary = BinaryJSONField(index=False)
        opened_at = DateTimeTZField()
        changed_at = DateTimeTZField(index=True)

    class Event(Base):
        setup = ForeignKeyField(Setup, column_name="setup_id", backref="events")
        seq = IntegerField()
        id = UUIDField(unique=True)
        at = DateTimeTZField()
        received_at = DateTimeTZField()
        author = TextField()
        body = BinaryJSONField(index=False)
        extra = BinaryJSONField(index=False)

        class Meta:
            table_name = "event"
            primary_key = CompositeKey("setup", "seq")

    db.create_tables([ShopItem, Setup, Event])
    db.execute_sql(APPEND_ONLY)


def down(migrator, db):
    db.execute_sql("DROP TABLE event, setup, shop_item; DROP FUNCTION event_is_append_only()")
