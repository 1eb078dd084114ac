"""Numbers of a document that may change over the shot.

In dependency order:

interpolate  numerics of keyed curves
curves       the document of a keyed curve
scope        inputs of a number during sampling
param        THE STATES of a number: fixed, keyed. Other modules do not distinguish them
smoothing    the mean over a moving stretch of time
approximation  a function of time as keys with handles
reduction    samples as few cubic keys, within a tolerance
limits       limits of numbers, said where a field is
looks        how fields look to people: names, units, steps
phase        the integral of rate × speed
envelope     ramps in and out
"""
