"""The lens.

In dependency order:

lens        focal length, field of view, sizes in pixels
distortion  radial distortion
"""
