"""Contact poles by ohms: that none is open is all they tell; millivolts at load judge."""

from __future__ import annotations

from ...base import Finding, Unknown, Verdict, amount, exceeds, phrase
from .answers import answer
from .entry import POLES
from .reading import Measured


def contact_findings(m: Measured) -> list[Finding]:
    """Is a pole open, or plainly bad? Never good: 0.2 Ω at 50 A would be 500 W."""
    if not m.read_any(POLES) and not m.body.tone:
        return []
    gone = [n[-1] for n in POLES if n in m.open]
    if gone:
        return [answer("contact_ohms", Verdict.STOP, phrase("ohms.pole_open", n=", ".join(gone)))]
    if m.body.tone and not m.read_any(POLES):
        return [answer("contact_ohms", Verdict.UNKNOWN, phrase("ohms.tone"), Unknown.INCONCLUSIVE)]
    if m.lead is None:
        return [answer("contact_ohms", Verdict.UNKNOWN, phrase("ground.ohms.leads"), Unknown.INCOMPLETE)]
    missing = [n[-1] for n in POLES if n not in m.got]
    if missing:
        poles = ", ".join(f"pole {n}" for n in missing)
        return [
            answer("contact_ohms", Verdict.UNKNOWN, phrase("ohms.pairs", missing=poles), Unknown.INCOMPLETE)
        ]
    worst = max(POLES, key=lambda n: m.net(n) or 0.0)
    value = m.net(worst) or 0.0
    least = max(
        m.limits.value("ohms.pole_least"), m.limits.value("ohms.pole_times") * (m.got.get("leads") or 0)
    )
    if exceeds(value, least):
        return [
            answer("contact_ohms", Verdict.ACT, phrase("ohms.pole_high", n=worst[-1], v=amount(value, "ohm")))
        ]
    return [answer("contact_ohms", Verdict.UNKNOWN, phrase("ohms.pole_not_open"), Unknown.INCONCLUSIVE)]
