"""A bake while it happens: from the frozen plan and what was told so far to what stands, what comes, and what to do."""
