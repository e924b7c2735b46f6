"""Set-ups with something that is to be looked at again are few, and asked for whenever the Bench is."""


def up(migrator, db):
    db.execute_sql(
        "CREATE INDEX setup_follow_ups ON setup (changed_at) WHERE jsonb_array_length(account -> 'follow_ups') > 0"
    )


def down(migrator, db):
    db.execute_sql("DROP INDEX IF EXISTS setup_follow_ups")
