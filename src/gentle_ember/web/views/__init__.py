"""Answers of the service: each response class is the mapping from the core to JSON."""
