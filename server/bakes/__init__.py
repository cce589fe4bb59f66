"""Bakes under way: started from a frozen plan, told by events, answered by the engine."""
