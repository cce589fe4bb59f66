"""Photos of what came out: kept as files, measured by the engine, given to their owner alone."""
