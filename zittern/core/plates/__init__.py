"""Pictures hung in depth, and whether they fill the frame.

surface    where rays meet a plate, in metres along its surface
border     rays through the picture's border
set_pieces objects of a set, and where rays meet them
coverage   width of the area at each side of the picture without a plate
past_set   where a picture looks past the edge of the set
needs      the smallest changes that fill it: overscan, punch-in, swings, a shift of the plate or of the move
"""
