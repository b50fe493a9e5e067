"""What leaves or enters as a file, in open formats."""
