"""Edits: a command takes a shot and gives a new one; it never touches the old. In dependency order:

address  names one field of a shot: `layer:sway.axes.pan.swing`
command  base of all commands, labels
values   set fields, scale swings, axis rates
layers   add, remove, duplicate, reorder layers; seeds, links, the handheld feel
keys     keys of any number: set, move, copy, stretch, delete, bend
placing  where the camera stands and looks
moves    a move brought in from a file
table    THE TABLE of commands; apply
"""
