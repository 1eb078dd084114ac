"""Builders of the presets that ship (`make presets`).

In dependency order:

building  one call per layer
blends    presets that are blends
shipped   all of them, and writing them
"""
