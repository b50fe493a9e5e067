"""The rules of the job: pure Python, SI units, no files, no clock, no interface."""
