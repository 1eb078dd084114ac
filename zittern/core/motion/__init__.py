"""THE CENTRE: a shot and frames give Motion, stage by stage. In dependency order:

cache      arrays by exactly what they were made from
run        one evaluation: a shot, frames, a cache; what all stages share
memory     stages with memory: a grid of their own that starts before the shot
follow     the first of them: a damped follow of the move
move       keyed poses of the mounts -> bare pose, path facts
layers     each layer -> its offsets, before mixing
fades      cross-fades of clips that overlap on a lane
mixing     spans, ramps, amounts, replacing -> what each layer contributes
lens       focal length with zoom
angles     pan, tilt, roll of the lens, continuous in time
evaluate   wires the stages
"""
