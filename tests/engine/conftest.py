"""Hypothesis without deadlines: machines are noisy, and no test asserts a time."""

from hypothesis import settings

settings.register_profile("strom", deadline=None)
settings.load_profile("strom")
