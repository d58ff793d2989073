"""Operation: backup and restore, health, measurements, and what is logged of a request."""
