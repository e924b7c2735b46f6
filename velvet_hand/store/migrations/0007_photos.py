"""Photos of set-ups."""


def up(migrator, db):
    db.execute_sql("""
        CREATE TABLE photo (
            id uuid PRIMARY KEY,
            setup_id uuid NOT NULL REFERENCES setup (id),
            at timestamptz NOT NULL,
            author text NOT NULL,
            width integer NOT NULL,
            height integer NOT NULL,
            jpeg bytea NOT NULL CHECK (octet_length(jpeg) <= 4000000)
        )
    """)
    db.execute_sql("ALTER TABLE photo ALTER COLUMN jpeg SET STORAGE EXTERNAL")
    db.execute_sql("CREATE INDEX photo_of_setup ON photo (setup_id, at)")


def down(migrator, db):
    db.execute_sql("DROP TABLE photo")
