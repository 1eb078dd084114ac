"""Formulas: small expressions that people write for a number.

In dependency order:

fault      what is wrong with a formula, where, and what to do
functions  THE TABLE of functions and constants
tree       a checked formula, evaluated on whole arrays
grammar    text -> tree; names in a text found and changed
scaling    a text scaled and shifted, folded into one factor
arithmetic what is typed into a number
"""
