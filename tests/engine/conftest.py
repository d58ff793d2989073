"""Hypothesis without deadlines: machines are noisy, and no test asserts a time."""

from hypothesis import settings

settings.register_profile("strom")
settings.load_profile("strom")
