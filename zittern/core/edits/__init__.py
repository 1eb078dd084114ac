"""Edits: a command takes a shot and gives a new one; it never touches the old. In dependency order:

address  names one field of a shot: `layer:sway.axes.pan.swing`
command  base of all commands, labels
values   set fields, scale swings, axis rates
layers   add, remove, duplicate, reorder layers; seeds, links, the handheld feel
moves    keys of the camera's move; a move brought in from a file
table    THE TABLE of commands; apply
"""
