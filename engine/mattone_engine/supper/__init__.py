"""One evening: what is baked, of what dough, how and when; and every question that the engine is asked for it."""
