"""One module per noun, in alphabetical order.

checks    what checks find
cues      cues from files and as files
exports   exports started, watched, cancelled, fetched
imports   camera paths and shots from files
motion    the motion of a shot as binary float32
movies    movies started, their frames taken, watched, cancelled, fetched
plates    pictures hung in a shot
presets   presets, their preview on a shot, clips compared with their presets
project_files  projects as files, saved and opened
projects  projects and the shots in them
rig       what a rig has to do with the set
shots     a shot: its state, edits, undo, redo, history
tables    what the page needs to know once, and sets
takes     recorded takes as layers
typed     typed numbers
"""
