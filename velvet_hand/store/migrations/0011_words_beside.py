"""A word and what was chosen, in one index: a common word that never comes together with a holder, a machine or a hand is found to be so
at once, without walking through either.
"""

BESIDE = "setup_beside(words, machine, holder, outcome, procedure, hand)"


def up(migrator, db):
    db.execute_sql("""
        CREATE FUNCTION setup_beside(words tsvector, machine text, holder text, outcome text, procedure text, hand text)
        RETURNS tsvector LANGUAGE sql IMMUTABLE PARALLEL SAFE COST 10000 AS $$
            SELECT array_to_tsvector(array_agg(chosen || chr(31) || word))
            FROM unnest(tsvector_to_array(words)) AS word,
                 unnest(ARRAY['m' || machine, 'h' || holder, 'o' || coalesce(outcome, 'open'), 'p' || procedure, 'w' || hand]) AS chosen
        $$
    """)
    db.execute_sql(f"CREATE INDEX setup_words_beside ON setup USING gin ({BESIDE})")


def down(migrator, db):
    db.execute_sql("DROP INDEX setup_words_beside")
    db.execute_sql("DROP FUNCTION setup_beside(tsvector, text, text, text, text, text)")
