"""THE CENTRE: a shot and frames give Motion, stage by stage. In dependency order:

cache      arrays by exactly what they were made from
run        one evaluation: a shot, frames, a cache; what all stages share
memory     stages with memory: a grid of their own that starts before the shot
follow     second-order following, and slack
rides      mounts carried by objects of the set
move       keyed poses of the mounts -> bare pose, path facts
aim        the operator -> pan and tilt of the mount that is aimed
layers     each layer -> its offsets, before mixing
fades      cross-fades of clips that overlap on a lane
mixing     spans, ramps, amounts, replacing -> what each layer contributes
give       springs -> how far mounts stray
lens       focal length with zoom
steps      when the steps of gaits fall
angles     pan, tilt, roll of the lens, continuous in time
hold       the turn that holds the framing
posing     all of it put on the mounts -> where rig and lens are
evaluate   wires the stages
"""
