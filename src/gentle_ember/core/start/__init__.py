"""First start: the gate, the attempts, and the proof of each fuel."""
