"""Sources of motion.

In dependency order:

source   inputs and result of a source
noise    fractal gradient noise
wave     regular waves
bands    sums of sines in a band
drift    slow sway of a standing body
tremor   fast shake of muscles
breath   in and out, uneven
ringing  sums of damped oscillations
stepping   sources that go by steps
gait     steps by a cadence or by the path's speed
road     uneven ground through wheels and springs
hit      blows: damped ringing at cues
cycle    a few keys, repeated
hand_keys  additive keys
take      recorded samples, played back
formulas  an expression an axis
table    THE TABLE: adding a source adds one module here and one row there
"""
