"""Method: every school judged on this set, and what each fuel state then lets happen."""
