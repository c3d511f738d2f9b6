"""What is drawn of a running check: the legs' gauges, and the causes that the pattern allows."""

from __future__ import annotations

from ..base import Model, Phrase, Quantity, Verdict, nominal
from ..plant import MotorFacts


class Mark(Model):
    """A place on a drawing: 0 is the bottom of its gauge, 1 the top."""

    name: str
    at: float
    verdict: Verdict
    label: str = ""


class Advice(Model):
    """A cause class: what the pattern says, what a repair will change and what it will not."""

    cause: str
    says: Phrase
    changes: list[Phrase] = []
    leaves: list[Phrase] = []


class PlateView(Model):
    """What stands on the drawn motor: its nameplate, of the connection in use."""

    power: Quantity | None = None
    volts: Quantity | None = None
    amps: Quantity | None = None
    speed: Quantity | None = None
    service_factor: Quantity | None = None

    @classmethod
    def of(cls, motor: MotorFacts) -> PlateView:
        read = {
            "power": (motor.power_kw, "kW"),
            "volts": (motor.volts_v, "V"),
            "amps": (motor.amps_a, "A"),
            "speed": (motor.speed_rpm, "rpm"),
            "service_factor": (motor.sf, "1"),
        }
        return cls(
            **{name: nominal(value, unit) for name, (value, unit) in read.items() if value is not None}
        )


class RunningCheckView(Model):
    """The drawing of a running check: the motor's nameplate, marks on the gauges of its legs, and what the
    pattern points at.
    """

    plate: PlateView = PlateView()
    marks: list[Mark] = []
    advice: list[Advice] = []
