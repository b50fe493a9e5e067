"""Instruments: timestamped readings with their origin, and the stand-ins that simulate them."""
