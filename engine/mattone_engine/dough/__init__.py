"""The half of the job before the oven: formula, water, measures, and how dough rises."""
