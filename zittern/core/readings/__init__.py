"""What people read beside the numbers: how motion looks on screen. In dependency order:

flow      what people watch while it plays: streak, distance, height, speed
framing   how the subject sits on screen
movers    which part moves the picture, by how much
layers    what each layer does at a frame, and when it is heard
tagged    arrays by name and tag, made only when somebody does not have them yet
seen      motion that somebody looks at, with what several readings need of it
streams   THE TABLE of what is told of every frame: a row is an array, or one a part
moments   THE TABLE of what is told at one frame, or of the whole shot
spectrum  how much moves at which rate
scribble  a shot's shake as a small picture
swatches  what presets look like
"""
