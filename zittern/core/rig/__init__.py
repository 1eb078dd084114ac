"""Rotations and poses.

In dependency order:

vectors     fast operations on many short vectors
rotations   pan, tilt, roll to and from rotation matrices; continuous angles
transforms  4x4 poses: built from axes, composed, split
turns       rotations as vectors; products of many steps
aiming      angles that place a point at a position on screen
"""
