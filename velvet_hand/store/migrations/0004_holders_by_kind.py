"""Each holder of the Shop with the fields that its kind has."""

import json

from velvet_hand.core.setup.upgrade import upgraded_holder


def up(migrator, db):
    for item_id, body in db.execute_sql("SELECT id, body FROM shop_item WHERE kind = 'holder'").fetchall():
        db.execute_sql(
            "UPDATE shop_item SET body = %s::jsonb WHERE id = %s", (json.dumps(upgraded_holder(body)), item_id)
        )


def down(migrator, db):
    pass
