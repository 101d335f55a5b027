"""Methods beyond a plan's own steps: each looks at the rows of a plan, and says what they show and by which method."""
