"""A simulated meter: a boat with hidden faults that answers what a meter on it would show."""
