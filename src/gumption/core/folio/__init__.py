"""Answers that are kept: pages of them, what they came to when, what changed, and pages as documents."""
