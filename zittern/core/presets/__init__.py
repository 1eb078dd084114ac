"""Presets: saved clips, to be placed in any shot.

In dependency order:

preset       the document
files        older documents brought to the present shape; reading from JSON
feel         the default handheld layer
rigs         mounts to be put into any shot
search       words that people type for presets, and the nearest
responding   blows that fit the cues of a place
softening    soft ends for what is placed part-way
fitting      fits a preset to a place in a shot
placed       from a preset to a clip
saved        from clips and layers to a preset
differences  differences between a clip and its preset
"""
