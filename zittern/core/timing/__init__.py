"""Edits of time, exact.

In dependency order:

time_map  new places of all frames: pieces, with limits from the left and from the right
cubics    segments of keyed curves, cut in parts
course    a keyed curve as segments that can be cut
curves    keyed curves carried through a map: split at its breaks, the same course on both sides
limits    curves cut at the limits of their numbers
carry     THE VISITOR: everything in a document that carries frames, by the marks in its types
reversing a stretch run backwards
ripple    a whole shot carried through a cut: motion that runs on, motion that is kept
"""
