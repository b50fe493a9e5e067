"""Proving tight: zones, soap joint by joint, decay, lock-up."""
