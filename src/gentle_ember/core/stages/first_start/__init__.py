"""First start: the gate, the attempts, what is proven, and metering."""
