"""The stage Scheme: what can be done with the wiring, patterns, comparisons."""
