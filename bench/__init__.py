"""Designs made by a program, and how long things take on them."""
