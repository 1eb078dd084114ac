"""Presets: saved clips, to be placed in any shot. In dependency order:

preset   the document
shipped  THE TABLE of presets that come with the application
"""
