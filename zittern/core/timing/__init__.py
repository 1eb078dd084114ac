"""Edits of time, exact. In dependency order:

time_map  where each frame goes: pieces, with limits from the left and from the right
cubics    segments of keyed curves, cut in parts
curves    keyed curves carried through a map: split where it breaks, the same course on both sides
carry     THE VISITOR: everything in a document that carries frames, by the marks in its types
reversing a stretch run backwards
ripple    a whole shot carried through a cut, with what runs on and what keeps its motion
"""
