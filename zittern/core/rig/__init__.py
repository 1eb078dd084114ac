"""Where the camera is.

facts       names of the facts of the path
rotations   pan, tilt, roll <-> rotation matrices, continuous angles
transforms  4x4 poses built from axes, composed and taken apart
chain       world pose of the lens from a chain of mounts
"""
