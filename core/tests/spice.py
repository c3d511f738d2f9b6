"""A general circuit solver as an outside check: what is written for it, and the figures that it gives."""

from __future__ import annotations

import re
import subprocess
from collections.abc import Sequence
from pathlib import Path


def answers(lines: Sequence[str], words: Sequence[str], folder: Path) -> list[float]:
    """What the solver gives for each of these words (`vm(a,b)`, `vr(a,b)`) at 50 Hz, in their order."""
    prints = [f".print ac {word}" for word in words]
    file = folder / "asked.cir"
    file.write_text("\n".join(["asked", *lines, ".ac lin 1 50 50", *prints, ".end"]) + "\n")
    ran = subprocess.run(
        ["ngspice", "-b", str(file)], capture_output=True, text=True, check=True, timeout=120
    )
    found = [float(x) for x in re.findall(r"\n0\t\S+\t(\S+)", ran.stdout)]
    assert len(found) == len(words), ran.stdout[-400:]
    return found
