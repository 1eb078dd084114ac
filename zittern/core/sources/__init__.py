"""Sources of motion. In dependency order:

streams  random numbers from (seed, axis, position) only
source   what a source is given and what it must return
noise    fractal gradient noise
wave     regular waves
table    THE TABLE: adding a source adds one module here and one row there
"""
