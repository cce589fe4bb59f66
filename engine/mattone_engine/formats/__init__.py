"""Read and write what other programs understand."""
