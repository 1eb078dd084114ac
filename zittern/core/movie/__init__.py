"""The preview movie: what is drawn for each of its frames, and when.

In dependency order:

settings  settings: range, size, shutter, comparison
exposure  the moments of a frame while the shutter is open, and the rows that are read at each
layout    position of each picture in the frame
moments   poses of the lens and of plates at those moments
lean      skew of the picture by a sensor that is read row by row
"""
