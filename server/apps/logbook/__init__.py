"""The stage Log: readings, settings, faults, service, and records of monitors."""
