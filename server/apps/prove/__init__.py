"""The stage Prove: tests with predicted readings, what was read, the proving record."""
