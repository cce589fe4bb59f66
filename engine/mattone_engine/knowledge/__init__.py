"""What is known and how well: beliefs in, better beliefs or possible truths out."""
