"""What is measured of a seat, a bore, or a shaft that is turned under a dial."""

from typing import Literal

from ...base import Entered, Model, entered_field, said_field

Place = Literal[
    "seal",
    "seal_610",
    "seat",
    "wheel_ring",
    "hub",
    "cover",
    "box",
    "motor_small",
    "motor_large",
    "face_small",
    "face_large",
]


class FitsEntry(Model):
    """One seat with its readings, and one run-out. Every field may be missing."""

    what: Literal["shaft", "housing"] | None = said_field("Seat or housing bore")
    nominal: Entered | None = entered_field("Nominal diameter", "length", low=8, high=300, printed=True)
    load: Literal["normal", "heavy"] = said_field("Load", "normal")
    d1: Entered | None = entered_field("Reading at 0°, inner place", "length", low=5, high=310)
    d2: Entered | None = entered_field("Reading at 90°, inner place", "length", low=5, high=310)
    d3: Entered | None = entered_field("Reading at 0°, outer place", "length", low=5, high=310)
    d4: Entered | None = entered_field("Reading at 90°, outer place", "length", low=5, high=310)
    off: Entered | None = entered_field("Instrument error", "deviation", low=0, high=100, printed=True)
    spun: Literal["yes", "no"] | None = said_field("It has spun")
    cold: Literal["yes", "no"] | None = said_field("Measured at room temperature")
    place: Place | None = said_field("Run-out read at")
    runout: Entered | None = entered_field("Run-out (TIR)", "length", low=0, high=20)
    whole_turn: Literal["yes", "no"] | None = said_field("One whole turn")
    end_float: Entered | None = entered_field("End float", "length", low=0, high=20)
    float_limit: Entered | None = entered_field(
        "End float, manufacturer's limit", "length", low=0, high=20, printed=True
    )
    hub_bore: Entered | None = entered_field("Hub bore", "length", low=5, high=310)
    hub_shaft: Entered | None = entered_field("Shaft in the hub", "length", low=5, high=310)
    note: str = said_field("Note", "", free=True, max_length=500)
