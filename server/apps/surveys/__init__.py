"""The stages Survey, Loads and Banks: what is known of the boat, and what follows from it."""
