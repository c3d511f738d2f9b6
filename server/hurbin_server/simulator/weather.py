"""A weather service of our own, for the demo: dry and wet spells, a wind that goes with the day, as a
forecast file. It knows nothing of what the weather is wanted for.
"""

from __future__ import annotations

import json
import math
from datetime import datetime, timedelta
from random import Random

SOURCE = "harbour mast, simulated"
HOURS = 96


def forecast(made: datetime, seed: str) -> str:
    """The next four days by the hour, as JSON."""
    rng = Random(f"weather/{seed}")
    start = made.replace(minute=0, second=0, microsecond=0)
    wet, gust, hours = rng.random() < 0.3, rng.uniform(-1, 1), []
    for i in range(HOURS):
        at = start + timedelta(hours=i)
        wet = rng.random() < (0.82 if wet else 0.06)
        gust = 0.8 * gust + rng.gauss(0, 0.7)
        afternoon = max(0.0, math.sin((at.hour - 6) / 12 * math.pi))
        rain = rng.uniform(45, 95) if wet else rng.uniform(0, 22)
        wind = max(0.0, 2.6 + 2.4 * afternoon + 1.3 * gust + (2.0 if wet else 0.0))
        hours.append({"at": at.isoformat(), "rain_percent": round(rain), "wind_m_s": round(wind, 1)})
    return json.dumps({"source": SOURCE, "made_at": made.isoformat(), "hours": hours})
