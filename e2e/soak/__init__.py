"""The long tests: what the suite does in small, done until it would show."""
