"""Formulas: small expressions for numbers.

In dependency order:

fault      errors of formulas: message, position and advice
functions  THE TABLE of functions and constants
tree       a checked formula, evaluated on whole arrays
grammar    text -> tree; names in a text found and changed
scaling    a text scaled and shifted, folded into one factor
arithmetic what is typed into a number
"""
