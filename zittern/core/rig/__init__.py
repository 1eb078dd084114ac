"""Where the camera is.

facts       names of the facts of the path
rotations   pan, tilt, roll <-> rotation matrices, continuous angles
transforms  4x4 poses built from axes, composed and taken apart
turns       rotations as vectors; products of many steps
aiming      where something has to point to see a point at a place on screen
chain       world poses along a chain of mounts
"""
