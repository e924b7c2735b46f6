"""The Logbook is found by any word (full text, by the beginnings of words), and looked back at by holder, machine, indicator and hand.

``search`` holds plain words with single spaces, so the text search takes them as they are. Each index of what can be chosen carries
the others, so that any choice of several is made in one of them without looking at a set-up.
"""

CHOSEN = ("machine", "holder", "outcome", "procedure", "hand")
WORDS = "array_to_tsvector(array_remove(string_to_array(search, ' '), ''))"


def up(migrator, db):
    for column in ("gauge_id", "hand", "procedure"):
        db.execute_sql(f"ALTER TABLE setup ADD COLUMN {column} text NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE setup ADD COLUMN account jsonb")
    db.execute_sql("DROP INDEX IF EXISTS setup_search_words")
    db.execute_sql(f"ALTER TABLE setup ADD COLUMN words tsvector GENERATED ALWAYS AS ({WORDS}) STORED")
    db.execute_sql("CREATE INDEX setup_words ON setup USING gin (words)")
    for column in CHOSEN:
        others = ", ".join(other for other in (*CHOSEN, "standing") if other != column)
        db.execute_sql(
            f"CREATE INDEX setup_{column}_found ON setup ({column}, changed_at DESC, id DESC) INCLUDE ({others})"
        )
    db.execute_sql("DROP INDEX IF EXISTS setup_latest")
    db.execute_sql("CREATE INDEX setup_latest ON setup (changed_at DESC, id DESC)")
    for column in ("gauge_id", "hand"):
        db.execute_sql(f"CREATE INDEX setup_{column}_past ON setup ({column}, opened_at DESC)")


def down(migrator, db):
    for column in ("words", "account", "gauge_id", "hand", "procedure"):
        db.execute_sql(f"ALTER TABLE setup DROP COLUMN {column}")
    for column in CHOSEN:
        db.execute_sql(f"DROP INDEX IF EXISTS setup_{column}_found")
    db.execute_sql("CREATE INDEX setup_search_words ON setup USING gin (search gin_trgm_ops)")
