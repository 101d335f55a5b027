"""Gumption: plain questions of tables, answered with their working shown."""
