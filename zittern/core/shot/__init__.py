"""The shot document.

In dependency order:

dials     numbers that the user makes
path_facts  names of the path attributes that numbers may read
cues      named moments
posed     parts with a position and angles
springs      springs and dampers between a mount and what carries it
targets   what an operator or the hold follows
operator  the person who aims, and the hold on the framing
rides     a mount carried by an object of the set
mounts    a part of the rig: its keyed move and its pivot
origins   which preset a clip or layer came from
layers    one source of motion with its axes, weight and span
blends    corners of a clip, and the place among them
pad       positions among corners and the weight of each corner
clips     a stretch of time that holds layers
lanes     clips along time
variants  alternatives of all that makes motion
ignored   ignored findings
plates    pictures hung in depth
glass     distortion and breathing of the lens
forms     THE TABLES of the fields that forms show
reads     what documents read by name, and whether they may
shot      the whole document
seeds     seeds that are new
naming    the names of dials, changed wherever they stand
ids       ids that are free
changes   what differs between two documents, part by part
through_variant  a shot through one of its variants
upgrades  older documents brought to the present shape; reading from JSON
"""
