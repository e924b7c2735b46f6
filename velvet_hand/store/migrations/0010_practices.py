"""Practice: its acts in order, and how it ended; apart from the Logbook, which never sees any of it."""


def up(migrator, db):
    db.execute_sql("""
        CREATE TABLE practice (
            id uuid PRIMARY KEY, author text NOT NULL, told jsonb NOT NULL, began_at timestamptz NOT NULL,
            ended_at timestamptz, result jsonb
        )
    """)
    db.execute_sql("CREATE INDEX practice_by_author ON practice (author, began_at DESC)")
    db.execute_sql("""
        CREATE TABLE practice_act (
            practice uuid NOT NULL REFERENCES practice ON DELETE CASCADE, seq integer NOT NULL, id uuid NOT NULL UNIQUE,
            act jsonb NOT NULL, PRIMARY KEY (practice, seq)
        )
    """)


def down(migrator, db):
    db.execute_sql("DROP TABLE practice_act")
    db.execute_sql("DROP TABLE practice")
