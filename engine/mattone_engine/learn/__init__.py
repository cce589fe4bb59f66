"""What a kitchen learns of itself."""
