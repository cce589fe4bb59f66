"""From "first pizza at half past seven on Saturday" backwards."""
