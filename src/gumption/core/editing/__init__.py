"""Plans changed by hand: each step as a form, steps switched off, and later steps that follow what was changed."""
