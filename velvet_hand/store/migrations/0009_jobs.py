"""Parts with their operations in order."""


def up(migrator, db):
    db.execute_sql("""
        CREATE TABLE job (id uuid PRIMARY KEY, name text NOT NULL, body jsonb NOT NULL, changed_at timestamptz NOT NULL)
    """)
    db.execute_sql("CREATE INDEX job_latest ON job (changed_at DESC)")


def down(migrator, db):
    db.execute_sql("DROP TABLE job")
