"""Pictures hung in depth, and whether they fill the frame.

surface    where rays meet a plate, in metres along its surface
border     rays through the picture's border
coverage   how far in from each side of the picture no plate is seen
needs      the smallest changes that fill it: overscan, punch-in, swings, a shift of the plate or of the move
"""
