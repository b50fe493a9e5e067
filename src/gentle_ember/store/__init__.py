"""Jobs in SQLite: documents with revisions, an append-only change log, and the board's index."""
