"""THE CENTER: a shot and frames to Motion, stage by stage.

In dependency order:

cache      arrays by fingerprints of all their inputs
cost       memory of an evaluation, estimated before it starts
evaluation one evaluation: a shot, frames, a cache; THE PLACE of keys
memory     stages with memory: a separate grid that starts before the shot
follow     second-order following, and slack
rides      mounts carried by objects of the set
chain      world poses along a chain of mounts
move       keyed poses of the mounts -> bare pose
facts      facts of the path, and moments -> names that numbers may read
targets    where what is followed is
aim        the operator -> pan and tilt of the mount that is aimed
layers     each layer -> its offsets, before mixing
fades      cross-fades of clips that overlap on a lane
blends     the position of a blend -> weights of its corners
morph      layers of a blend that are alike -> the one between them
mixing     spans, ramps, amounts, replacing -> what each layer contributes
jumps      where what drives springs jumps
spring_ways the ways that mounts in springs are carried along, stretch by stretch
spring_motion a mount in springs in one stretch
springs    the deflection of mounts by springs
pose       the pose of the lens, and its columns
lens       focal length with zoom
steps      when the steps of gaits fall
angles     pan, tilt, roll of the lens, continuous in time
hold       the turn that holds the framing
posing     all of it put on the mounts -> where rig and lens are
evaluate   wires the stages
nodes      a motion as nested poses, for formats with nodes
picture    sizes on screen
sampled    motion at the frames that a view shows
"""
