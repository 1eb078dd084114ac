"""Edits: a command takes a shot and gives a new one; it never touches the old.

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
recording  what a hand did while it played, or drew, as keys
writing  what helps people who write formulas
typing   what is typed into a number of a shot: units, frames, pixels
placing  where the camera stands and looks
plates   pictures hung, placed, sized, taken down; the whole path moved
aiming   the operator, as people speak of one
shots    name, frame rate, range and picture of the shot
poses    poses in the world: pasted, or taken from something else
merging  two mounts as one, where numbers can give the same picture
keeping  what keeps the picture while the rig changes
rig      mounts put in, taken away, put in another order
riding   a mount that is carried along by the subject
rippling edits of time as commands make them
timing   frames put in, taken out, stretched, eased, run backwards; what comes after moved; content slipped
time_texts  time edits as shell commands write them, several in one command
conforming  a shot brought to what a cut shows of it
checking ignored findings
blends   clips and presets as the corners of one
flattening  a blend made plain: at one place, or with all that it does over time as keys
steps    single steps of a gait
takes    a recorded take as a layer
moves    a move brought in from a file, instead of the present one or riding on it; parts of the rig removed
variants alternatives made, named, ordered, deleted; clips and layers carried from one to another
table    all commands, by importing their modules; apply
upgrades stored commands of older versions
made     what an edit made
"""
