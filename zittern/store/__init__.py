"""SQLite: projects, shots, revisions, presets.

In dependency order:

faults      what the disk and SQLite refuse, in words
tables      the tables
engine      connection, WAL, migrations
writers     the queue of writers of one process
workspace   temporary files of one process
reserve     room kept back, so that things can be deleted on a full disk
documents   documents packed for the database, with a cache by content
cards       cached properties for the card of a shot
revisions   edits, undo, redo, history: nothing acknowledged is lost
tidy        history thinned on wish
shipped     presets that come with the application
presets     the user's own presets, with undo
seeds       the seed of a shot that is new: the only chance there is
naming      names of projects and shots, and their slugs
listing     lists of projects and shots
scribbles   scribbles packed for the database
library     projects and shots
takes       shipped takes
pictures    pictures that plates show
sets        set pieces (GLB files) that shots play in
"""
