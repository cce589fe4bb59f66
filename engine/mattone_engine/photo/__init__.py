"""Photos of a crust: how they are kept, what is measured on them, and crusts drawn as a camera would see them."""
