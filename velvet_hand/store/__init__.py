"""PostgreSQL through peewee: takes and returns core models, never queries.

``database`` (connection, migrations), ``tables`` (what is kept), ``shop`` (machines, holders,
gauges), ``setups`` (event log and its projection), ``notify`` (who wrote, for the live streams).
"""
