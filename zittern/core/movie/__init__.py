"""The preview movie: what is drawn for each of its frames, and when. In dependency order:

settings  what somebody wants: range, size, shutter, what stands beside what
exposure  the moments of a frame while the shutter is open, and the rows that are read at each
layout    where each picture lies in the frame
moments   poses of the lens and of plates at those moments
lean      how far a sensor that is read row by row leans the picture
"""
