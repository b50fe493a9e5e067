"""What a server process is told by the one that starts it, and how much of it streams may take.

On its own, so that the process that starts the server need not load the service twice.
"""

DATA_VARIABLE, HOSTS_VARIABLE = "GENTLE_EMBER_DATA", "GENTLE_EMBER_HOSTS"
LAN_VARIABLE = "GENTLE_EMBER_LAN"
"""Port on the network, where the shop is served there."""
BACKUPS_VARIABLE = "GENTLE_EMBER_BACKUPS"
"""Set where a backup is made each day."""
STREAMS, STREAMS_OF_ONE = 200, 24
"""Streams at most, and of one device of the network; each holds a thread of the server."""
