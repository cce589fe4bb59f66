"""Nothing is stored here: answers are kept by `work`."""
