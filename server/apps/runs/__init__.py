"""The stage Runs, repairs and waivers, and the workshop's stock."""
