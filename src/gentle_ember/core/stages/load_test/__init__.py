"""Load test: what to switch on, minutes that count, the plug, the jet."""
