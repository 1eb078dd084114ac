"""SQLite: projects, shots, revisions. In dependency order:

tables      the tables
engine      connection, WAL, migrations
documents   documents packed for the database, with a cache
revisions   edits, undo, redo, history: nothing acknowledged is lost
library     projects and shots
sets        set pieces (GLB files) that shots play in
"""
