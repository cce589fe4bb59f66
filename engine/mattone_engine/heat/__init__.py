"""What heat does: to the hearth while it warms, to dough and topping while they bake."""
