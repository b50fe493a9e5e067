"""Prove tight: zones, joints, decay and lock-up of each fuel."""
