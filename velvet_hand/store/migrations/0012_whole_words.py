"""The words that set-ups have, each once: a beginning that somebody types is turned into the few words that begin so, for the text search
lays whole words over each other seventy times faster than beginnings.
"""


def up(migrator, db):
    db.execute_sql('CREATE TABLE setup_word (word text COLLATE "C" PRIMARY KEY)')
    db.execute_sql("""
        CREATE FUNCTION setup_words_kept() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            INSERT INTO setup_word SELECT word FROM unnest(tsvector_to_array(NEW.words)) AS word ORDER BY word
            ON CONFLICT DO NOTHING;
            RETURN NULL;
        END $$
    """)
    db.execute_sql(
        "CREATE TRIGGER setup_words_new AFTER INSERT ON setup FOR EACH ROW EXECUTE FUNCTION setup_words_kept()"
    )
    db.execute_sql("""
        CREATE TRIGGER setup_words_changed AFTER UPDATE ON setup FOR EACH ROW
        WHEN (OLD.search IS DISTINCT FROM NEW.search) EXECUTE FUNCTION setup_words_kept()
    """)
    db.execute_sql("""
        INSERT INTO setup_word SELECT DISTINCT word FROM setup, unnest(tsvector_to_array(words)) AS word ON CONFLICT DO NOTHING
    """)


def down(migrator, db):
    db.execute_sql("DROP TRIGGER setup_words_changed ON setup")
    db.execute_sql("DROP TRIGGER setup_words_new ON setup")
    db.execute_sql("DROP FUNCTION setup_words_kept()")
    db.execute_sql("DROP TABLE setup_word")
