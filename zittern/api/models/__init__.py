"""Models of requests and responses, one module per noun.

TypeScript types are generated from these. In dependency order:

base      base of all, whole numbers and texts with limits
projects  projects, cards of shots
shots     states, edits, history
motion    motion packets, spectra
checks    what checks find
movies    movies, what their frames need
transfer  imports and exports
tables    what the page needs to know once, sets
presets   presets, and what a clip and its preset differ in
plates    what would fill the frame
rig       rides, poses of objects of a set
typed     what is typed into numbers
"""
