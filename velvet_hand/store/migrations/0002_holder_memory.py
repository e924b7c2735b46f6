"""Set-ups by holder, and what each taught about it."""

SQL = """
ALTER TABLE setup ADD COLUMN holder_id TEXT NOT NULL DEFAULT '', ADD COLUMN lesson JSONB;
UPDATE setup SET holder_id = coalesce(
    (SELECT e.body -> 'plan' -> 'holder' ->> 'id' FROM event e WHERE e.setup_id = setup.id AND e.seq = 1), '');
CREATE INDEX setup_holder_id ON setup (holder_id);
"""


def up(migrator, db):
    db.execute_sql(SQL)


def down(migrator, db):
    db.execute_sql("ALTER TABLE setup DROP COLUMN holder_id, DROP COLUMN lesson")
