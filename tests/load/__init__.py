"""The whole server under load: many people at once, on this machine alone."""
