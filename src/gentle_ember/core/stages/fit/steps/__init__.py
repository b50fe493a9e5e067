"""Where the steps of the sheet come from, a subject a module."""
