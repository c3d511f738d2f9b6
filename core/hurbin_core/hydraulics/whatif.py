"""What closing a valve, slowing or trimming would do: flow, head, power, current, energy. Pencil only."""

from __future__ import annotations

from dataclasses import dataclass

from ..base import Model, Quantity, amount
from .curve import Curve, System
from .formulas import amps_at_share, share_by_amps, valve_kv, water_kw
from .roots import meets


@dataclass(frozen=True, slots=True)
class Now:
    """As it runs. amps: the worst leg; idle, rated: A; rated_kw: of the nameplate; efficiency: of the motor,
    0 to 1, None where it is not known; hours, price: a year's, of a kWh.
    """

    curve: Curve
    system: System
    q: float
    kw: float
    amps: float | None = None
    idle: float | None = None
    rated: float | None = None
    rated_kw: float | None = None
    efficiency: float | None = None
    hours: float | None = None
    price: float | None = None
    u_share: float = 0.0


class RunOption(Model):
    """One way to run it. of_bep: flow over that of best efficiency at its speed; loss: head that the valve
    eats; speed: share of the speed, or of the impeller.
    """

    id: str
    flow: Quantity
    head: Quantity
    power: Quantity | None = None
    amps: Quantity | None = None
    of_bep: Quantity | None = None
    left: Quantity | None = None
    loss: Quantity | None = None
    kv: Quantity | None = None
    speed: Quantity | None = None
    energy: Quantity | None = None
    money: Quantity | None = None


def amps_of(now: Now, kw: float) -> float | None:
    """The worst leg at this shaft power: by no-load current, brought to what it reads now."""
    if now.idle is None or not now.rated or not now.rated_kw or now.amps is None:
        return None
    if share_by_amps(now.amps, now.idle, now.rated) is None:
        return None
    read = amps_at_share(now.kw / now.rated_kw, now.idle, now.rated)
    return amps_at_share(kw / now.rated_kw, now.idle, now.rated) * now.amps / read


def power_at_amps(now: Now, amps: float) -> float | None:
    """The other way round: which shaft power brings the worst leg to this current?"""
    if now.idle is None or not now.rated or not now.rated_kw or now.amps is None:
        return None
    read = amps_at_share(now.kw / now.rated_kw, now.idle, now.rated)
    share = share_by_amps(amps * read / now.amps, now.idle, now.rated)
    return share * now.rated_kw if share is not None else None


def _option(now: Now, id: str, curve: Curve, q: float, head: float, **more: Quantity | None) -> RunOption:
    kw = curve.power.at(q) if curve.power else None
    # What the curve and the reading say of the power now may differ: the change is the curve's.
    base = now.curve.power.at(now.q) if now.curve.power else None
    if kw is not None and base:
        kw = kw / base * now.kw
    amps = amps_of(now, kw) if kw is not None else None
    energy = kw / now.efficiency * now.hours if kw and now.efficiency and now.hours else None
    bep = curve.bep
    return RunOption(
        id=id,
        flow=amount(q, "m3/h", u=now.u_share * q),
        head=amount(head, "m_head"),
        power=amount(kw, "kW") if kw is not None else None,
        amps=amount(amps, "A") if amps is not None else None,
        of_bep=amount(100 * q / bep, "%", u=100 * now.u_share * q / bep) if bep else None,
        left=amount(100 * q / now.q, "%"),
        energy=amount(energy, "kWh") if energy is not None else None,
        money=amount(energy * now.price, "1") if energy is not None and now.price else None,
        **more,
    )


def as_it_runs(now: Now) -> RunOption:
    return _option(now, "now", now.curve, now.q, now.system.head(now.q))


def throttled(now: Now, q: float) -> RunOption | None:
    """The valve closed until this flow is left; None outside the curve's points, or where more flows."""
    head = now.curve.head.at(q)
    if head is None or q <= 0 or q > now.q:
        return None
    loss = head - now.system.head(q)
    kv = valve_kv(q, loss, now.curve.rho) if loss > 0 else None
    return _option(
        now,
        "valve",
        now.curve,
        q,
        head,
        loss=amount(max(0.0, loss), "m_head"),
        kv=amount(kv, "1") if kv is not None else None,
    )


def slowed(now: Now, q: float, id: str = "speed") -> RunOption | None:
    """The same flow through the valve as it is, by speed or by trimming; None where no speed gives it."""
    head = now.system.head(q)
    s = meets(lambda x: (now.curve.at(x).head.at(q) or 0.0) - head, _least(now, q), 1.0)
    if s is None:
        return None
    return _option(now, id, now.curve.at(s), q, head, speed=amount(100 * s, "%"))


def _least(now: Now, q: float) -> float:
    """The slowest at which this flow still lies on the curve."""
    return max(0.05, q / now.curve.end * (1 + 1e-9))


def flow_at_power(now: Now, kw: float) -> float | None:
    """To which flow must the valve close for this shaft power? None where no valve can do it."""
    base = now.curve.power.at(now.q) if now.curve.power else None
    return now.curve.flow_at_power(kw * base / now.kw) if base else None


def speed_at_power(now: Now, kw: float) -> tuple[float, float] | None:
    """Which share of the speed (or impeller) takes this power through the valve as it is, and which flow is
    left then? None where no speed down to a third does.
    """
    base = now.curve.power.at(now.q) if now.curve.power else None
    if not base or now.curve.power is None:
        return None

    def power(s: float) -> float:
        slow = now.curve.at(s)
        met = slow.meet(now.system)
        at = slow.power.at(met[0]) if met is not None and slow.power is not None else None
        return (at or 0.0) / base * now.kw - kw

    s = meets(power, 1 / 3, 1.0, 1e-9)
    met = now.curve.at(s).meet(now.system) if s is not None else None
    return (s, met[0]) if s is not None and met is not None else None


def wasted_kw(option: RunOption, rho: float) -> float:
    """Water power that a valve eats, kW."""
    return water_kw(rho, option.flow.value, option.loss.value) if option.loss is not None else 0.0
