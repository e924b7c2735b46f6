"""What the Logbook is asked for is indexed: words anywhere in a line, a holder's last set-ups, the latest first."""


def up(migrator, db):
    db.execute_sql("CREATE EXTENSION IF NOT EXISTS pg_trgm")
    db.execute_sql("CREATE INDEX setup_search_words ON setup USING gin (search gin_trgm_ops)")
    db.execute_sql("CREATE INDEX setup_holder_latest ON setup (holder_id, opened_at DESC)")
    db.execute_sql("CREATE INDEX setup_machine_latest ON setup (machine_id, changed_at DESC)")
    db.execute_sql("CREATE INDEX setup_latest ON setup (changed_at DESC, id)")
    for doubled in ("setup_holder_id", "setup_machine_id", "setup_changed_at", "event_setup_id"):
        db.execute_sql(f"DROP INDEX IF EXISTS {doubled}")


def down(migrator, db):
    for name in ("setup_search_words", "setup_holder_latest", "setup_machine_latest", "setup_latest"):
        db.execute_sql(f"DROP INDEX IF EXISTS {name}")
