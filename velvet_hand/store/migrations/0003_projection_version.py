"""In which form a set-up's line for lists is kept, so that older ones are made anew from their events."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE setup ADD COLUMN projected INTEGER NOT NULL DEFAULT 1")


def down(migrator, db):
    db.execute_sql("ALTER TABLE setup DROP COLUMN projected")
