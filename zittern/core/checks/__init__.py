"""Automatic checks. A check is a module and a row of the table.

In dependency order:

finding  a finding: address, amount, explanation and fix
study    the evaluated motion that all checks look at, in pixels
silent   layers that do nothing, and why
twins    axes that move alike
seam     of a shot that loops: its first frame after its last
pop      jumps where a clip or layer starts or ends
set_edge  a picture that looks past the edge of the set
coverage  edges of plates that show, and of the set
hidden   the subject behind plates and pieces of the set
through  a lens that goes through something
framing  the subject out of the picture or its safe area
blur     streaks beyond a limit at the shutter angle
rate     what moves faster than half the frame rate
kink     corners in the path
limits   numbers that their limits clamp
comfort  motion that causes discomfort
smooth   a move without any life
repeats  a shake that visibly repeats itself
table    THE TABLE of checks, and all of them on a shot
repair   applies fixes one after another
"""
