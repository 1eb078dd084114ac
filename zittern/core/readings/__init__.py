"""Readings: the appearance of motion on screen.

In dependency order:

flow      values during playback: streak, distance, height, speed
framing   how the subject sits on screen
movers    picture movement by each part
layers    motion of each layer at a frame, and its active range
tagged    arrays by name and fingerprint, computed on demand
motion_view  motion for a view, with shared intermediate results
streams   THE TABLE of values for every frame: each row is one array, or one per part
point_readings  THE TABLE of values at one frame, or of the whole shot
spectrum  amplitude by rate
scribble  a shot's shake as a small picture
swatches  what presets look like
"""
