"""Edits: a command takes a shot and returns a new one; the old one is unchanged.

In dependency order:

parts    parts of a shot by their ids
address  names one field of a shot: `layer:sway.axes.pan.swing`
titles   what parts of a shot are called in labels
command  base of all commands, labels
values   set fields, scale swings, axis rates
layers   add, remove, duplicate, reorder layers; seeds, links, the handheld feel
clips    clips placed, moved, split, repeated, taken away
spans    ends and ramps of layers and clips
presets  presets placed, swapped, gone over to; clips brought back to theirs
driven   numbers that follow a formula are left alone
keys     keys of any number: set, move, copy, stretch, delete, bend
numbers  set numbers, fixed or keyed
glass    the distortion by what it does at the corners
formulas formulas of numbers; dials connected to them
dials    dials made, changed, removed
cues     cues placed, moved, changed, taken away
recording  pointer input during playback or drawing, as keys
writing  support for writing formulas
typing   what is typed into a number of a shot: units, frames, pixels
placing  where the camera stands and looks
plates   pictures hung, placed, sized, taken down; the whole path moved
aiming   the operator in terms of its lag
shots    name, frame rate, range and picture of the shot
poses    poses in the world: pasted, or taken from something else
merging  two mounts as one, where numbers can give the same picture
keeping  what keeps the picture while the rig changes
rig      add, remove and reorder mounts
riding   a mount that is carried along by the subject
rippling edits of time as commands make them
timing   insert, remove, stretch, ease, reverse frames; shift later content; slip clips
time_texts  time edits as shell commands write them, several in one command
conforming  a shot brought to what a cut shows of it
checking ignored findings
blends   clips and presets as the corners of one
flattening  a blend converted to a plain clip: at one position, or keyed over time
steps    single steps of a gait
takes    a recorded take as a layer
moves    a move brought in from a file, instead of the present one or riding on it; parts of the rig removed
variants alternatives made, named, ordered, deleted; clips and layers carried from one to another
table    all commands, by importing their modules; apply
upgrades stored commands of older versions
notices  parts that an edit added, and its notice
"""
