"""Hand over: the job goes back to its owner."""
