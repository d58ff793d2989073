"""Attacks on purpose: generated and mutated calls against the whole server, in one process."""
