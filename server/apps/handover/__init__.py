"""The stage Handover: what the owner takes along."""
