"""The rules of the job, without I/O. In dependency order:

refusals   what pydantic says of a value, in our words
errors     one tree of errors
budget     what a request may cost
later      parts of scipy that are imported when they are first needed
units      conversions between degrees, radians, metres, centimetres
vectors    many short vectors at once
axes       the axes of the camera and its film back
doc        base of all documents: frozen, strict, fingerprinted
versions   older documents brought to the present version, step by step
streams    random numbers by seed and place
pad        a place among corners, and how much each counts there
octave     one octave of gradient noise
formula    THE LANGUAGE of formulas: grammar, functions, trees
timebase   rational frame rates; frames to seconds
timemarks  marks in the types of fields that carry frames
numbers    numbers that may change over the shot: curves, scope, THE STATES of a number
phase      integral of rate x speed
envelope   ramps in and out
lens       focal length, field of view, size in pixels
distortion how a lens bends the picture
rig        rotations, transforms, mount poses
looks      how fields look to people: names, units, steps
sources    sources of motion and their table
shot       the shot document and its upgrades
timing     edits of time: where each frame goes, and THE VISITOR that carries documents along
forms      THE TABLES of what forms show
motion     THE CENTRE: shot + frames -> Motion, a module a stage
set_pieces what stands in a set, and where ways meet it
picture    sizes on screen
sampled    motion at the frames that somebody looks at
feel       the starting handheld feel
presets    saved clips, those that ship, and what becomes of them in a shot
ready_rigs rigs that ship
edits      commands: a shot in, a new shot out
plates     pictures hung in depth, and whether they fill the frame
readings   what people read beside the numbers: THE TABLES of streams and of moments
movie      the preview movie: what is drawn for each of its frames, and when
checks     what people look for by eye: THE TABLE of checks

In array shapes, axes have letters: F frames, K keys, L layers, A axes (in AXES order). F comes first in results.
World: metres, right-handed, Y up; the camera looks along its own -Z with +Y up.
"""
