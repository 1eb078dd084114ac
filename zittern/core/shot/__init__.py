"""The shot document. In dependency order:

mounts    a part of the rig: its keyed move and its pivot
layers    one source of motion with its axes, weight and span
clips     a stretch of time that holds layers
lanes     clips along time
shot      the whole document
frames    THE VISITOR of everything that carries frames
upgrades  older documents brought to the present shape; reading from JSON
"""
