"""The shot document. In dependency order:

dials     numbers that the user makes
mounts    a part of the rig: its keyed move and its pivot
layers    one source of motion with its axes, weight and span
clips     a stretch of time that holds layers
lanes     clips along time
reads     what documents read by name, and whether they may
shot      the whole document
frames    THE VISITOR of everything that carries frames
upgrades  older documents brought to the present shape; reading from JSON
"""
