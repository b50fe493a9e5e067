"""The load screw: where to start, the sweep judged, the setting."""
