"""Field units at the edge: reading what people type, showing what the core computed."""

from gentle_ember.units.display import Shown, show, show_input
from gentle_ember.units.reading import ReadingError, read

__all__ = ["ReadingError", "Shown", "read", "show", "show_input"]
