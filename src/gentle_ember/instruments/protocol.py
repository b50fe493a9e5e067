"""What every instrument gives: timestamped readings of named quantities, with their origin."""

from __future__ import annotations

from dataclasses import dataclass

from gentle_ember.core.base.figure import Origin


@dataclass(frozen=True, slots=True)
class Channel:
    """A quantity an instrument can give: its name, its kind of quantity [SI], what gives it."""

    key: str
    name: str
    kind: str
    instrument: str


CHANNELS: dict[str, Channel] = {
    one.key: one
    for one in (
        Channel("volts_a", "volts, leg A", "voltage", "power meter"),
        Channel("volts_b", "volts, leg B", "voltage", "power meter"),
        Channel("volts_c", "volts, leg C", "voltage", "power meter"),
        Channel("amps_a", "amps, leg A", "current", "power meter"),
        Channel("amps_b", "amps, leg B", "current", "power meter"),
        Channel("amps_c", "amps, leg C", "current", "power meter"),
        Channel("output", "output", "power", "power meter"),
        Channel("hertz", "frequency", "frequency", "power meter"),
        Channel("speed", "engine", "speed", "tachometer"),
        Channel("throttle", "throttle", "share", "throttle pointer"),
        Channel("lambda", "λ", "ratio", "exhaust probe"),
        Channel("oxygen", "oxygen", "share", "exhaust probe"),
        Channel("co", "carbon monoxide", "ppm", "CO meter"),
        Channel("exhaust", "exhaust", "temperature", "thermocouple"),
        Channel("exhaust_b", "exhaust, right barrel", "temperature", "thermocouple"),
        Channel("manometer", "at the manometer", "pressure", "manometer"),
        Channel("inlet", "before the demand regulator", "pressure", "manometer"),
        Channel("mass", "on the scale", "mass", "scale"),
        Channel("dial", "gas through the meter", "volume", "gas meter"),
        Channel("gas_near", "gas in the air", "ppm", "gas sniffer"),
    )
}


@dataclass(frozen=True, slots=True)
class Reading:
    """One value of a channel [SI] at a moment [s], and where it comes from."""

    channel: str
    value: float
    at_s: float
    origin: Origin
