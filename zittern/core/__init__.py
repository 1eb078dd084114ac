"""The rules of the application, without I/O.

In dependency order:

refusals   messages for values that pydantic rejects
errors     one tree of errors
units      conversions of degrees, radians, meters, centimeters
axes       THE TABLE of axes: units, limits, columns, sizes in the picture, inks
runtime    the cost of requests, and late imports
optics     the lens
rig        rotations and poses
noise      noise by seed
documents  the base of all documents, and their versions
timebase   rational frame rates; frames to seconds
formula    THE LANGUAGE of formulas: grammar, functions, trees
numbers    numbers that change over the shot: curves, scope, THE STATES of a number
sources    sources of motion and their table
shot       the shot document and its upgrades
timing     time edits: where each frame moves, and THE VISITOR that retimes documents
motion     THE CENTER: shot and frames to Motion, one module per stage
presets    saved clips, shipped presets and rigs, and placing them in a shot
edits      commands: a shot in, a new shot out
plates     image plates, and whether they fill the frame
readings   values shown next to the numbers: THE TABLES of streams and of point readings
movie      the preview movie: content and timing of its frames
checks     automatic checks: THE TABLE of checks

In array shapes, axes have letters: F frames, K keys, L layers, A axes (in AXES order). F comes first in results.
World: metres, right-handed, Y up; the camera looks along its own -Z with +Y up.
"""
