"""The two drawings: the motor's axis from the measuring plane to its rear feet, exaggerated until it is seen.
Geometry, not pixels.
"""

from __future__ import annotations

from ..base import amount
from .moves import raising, shifting
from .shaft_position import Plane, ShaftPosition
from .view import ShaftPoint, ShaftView


def feet_ask(
    plane: Plane, target: float, front: float | None, rear: float | None
) -> tuple[float | None, float | None]:
    """What the front and the rear feet ask for: up (or right) is positive."""
    out: list[float | None] = []
    for x in (front, rear):
        stands = plane.at(x) if x is not None else None
        out.append(None if stands is None else target - stands)
    return out[0], out[1]


def shaft_views(
    position: ShaftPosition | None, target: float, front: float | None, rear: float | None
) -> list[ShaftView]:
    """Both views; a plane without readings is shown as unknown. `times`: how many times it is exaggerated
    against its length.
    """
    if position is None:
        return [ShaftView(view="side", known=False), ShaftView(view="top", known=False)]
    a, b = front or 200.0, rear or 500.0
    span = max(
        [
            abs(v)
            for p in (position.vertical, position.horizontal)
            for x in (0.0, a, b)
            if (v := p.at(x)) is not None
        ]
        + [abs(target), 0.05]
    )
    times = max(1, min(1000, round(0.12 * b / span, -1) or 1))
    out: list[ShaftView] = []
    for plane, aim in ((position.vertical, target), (position.horizontal, 0.0)):
        whole = plane.offset is not None and plane.slope is not None
        asked = dict(zip((a, b), feet_ask(plane, aim, a, b), strict=True))
        points = [
            ShaftPoint(
                name=n,
                x=round(x / b, 4),
                y=round(0.5 + v / (2.4 * span), 4),
                says=amount(asked[x] or 0.0, "mm") if x in asked else amount(v, "mm"),
                move=(shifting if out else raising)(asked[x] or 0.0) if x in asked else None,
            )
            for n, x in (("coupling", 0.0), ("front", a), ("rear", b))
            if (v := plane.at(x)) is not None
        ]
        view = ShaftView(
            view="top" if out else "side",
            known=whole,
            times=int(times),
            target=round(0.5 + aim / (2.4 * span), 4),
            points=points,
        )
        out.append(view)
    return out
