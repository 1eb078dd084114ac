"""Noise by seed.

In dependency order:

streams  random numbers by seed and position
octave   one octave of gradient noise
"""
