"""A job on a set, told step by step: what the server would tell the case is told here by hand."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from cases import case

from hurbin_core.base import Evaluation
from hurbin_core.jobs.job import JOB_BENCH
from hurbin_core.jobs.job.entry import job_entry
from hurbin_core.jobs.procedure import BLOCKS, PROCEDURES
from hurbin_core.logbook import Entry
from hurbin_core.plant import MotorPlate
from hurbin_core.safety import SCOPES

START = datetime(2026, 3, 2, 8, 0, tzinfo=UTC)
FIGURES = {
    "casing_temp": "32",
    "shaft_lift": "0.05",
    "mount_flush": "0.2",
    "foot_rise": "0.03",
    "foot_move": "0.02",
}
FIGURES |= {
    "cut_gap": "0.4",
    "chain_slack": "30",
    "slinger_clear": "2",
    "ring_runout": "0.04",
    "cutter_off": "0.05",
}
FIGURES |= {
    "control_drop": "3",
    "mount_sag": "0.5",
    "scale": "0.3",
    "base_flat": "0.02",
    "head_watts": "0.09",
}
READS = {
    "running_check": [("current", "1", 9.9, "A"), ("current", "2", 10.0, "A"), ("current", "3", 10.1, "A")]
    + [("voltage", p, 400.0, "V") for p in ("12", "23", "31")],
    "vibration": [("vib_pump", "", 1.2, "mm/s")],
}


def figure_name(step: str) -> str:
    """What the figure of a step is called in its procedure."""
    specs = [s for b in BLOCKS.values() for s in b.step]
    specs += [s.model_copy(update={"id": f"{p.id}.{s.id}"}) for p in PROCEDURES.values() for s in p.step]
    return next(s.figure.name for s in specs if s.id == step and s.figure is not None)


class Told:
    """A job under way. Each act is a minute later than the one before."""

    def __init__(
        self, procedure: str, kind: str, phases: int = 3, control: str = "starter", **about: Any
    ) -> None:
        self.kind, self.phases, self.control = kind, phases, control
        self.at, self.entries = START, list[Any]()
        self.known: dict[str, Any] = {"moments": [], "records": []}
        self.record("running_check")
        self.say(kind="open", procedure=procedure, because="drips", set_kind=kind)
        dry: dict[str, Any] = {"weight": {"text": "60"}, "seal_kind": "type 1"}
        dry |= {"hot": "no", "outside": "no", "pit": "no", "roof": "no", "header": "no", "no_service": "yes"}
        self.say(kind="about", **(dry | about))

    def say(self, by: str = "Ada", **body: Any) -> Any:
        self.at += timedelta(minutes=1)
        raw = {"uuid": f"entry-{len(self.entries):04d}", "taken_at": self.at, "by": by, "who": by.lower()}
        entry = Entry[Any](**raw, device=by, body=job_entry(**body))
        self.entries.append(entry)
        return entry

    def passes(self, minutes: float) -> None:
        """Nobody does anything for so long."""
        self.at += timedelta(minutes=minutes)

    def moment(self, state: str) -> None:
        self.at += timedelta(minutes=1)
        self.known["moments"].append({"at": self.at, "state": state, "scopes": list(SCOPES)})

    def record(self, bench: str, verdict: str = "good", reads: Any = None) -> None:
        self.at += timedelta(minutes=1)
        rows = reads if reads is not None else READS.get(bench, [])
        self.known["records"].append(
            {
                "bench": bench,
                "record": len(self.known["records"]) + 1,
                "taken_at": self.at,
                "verdict": verdict,
                "conditions": "valve=open",
                "reads": [dict(zip(("measurand", "leg", "value", "unit"), r, strict=True)) for r in rows],
            }
        )

    def case(self) -> Any:
        motor = MotorPlate(phases=self.phases)  # type: ignore[arg-type]
        context = {"kind": self.kind, "control_kind": self.control, "motor": motor}
        told = case(self.at + timedelta(minutes=1), **context)
        return told.model_copy(update={"extras": {"job": [self.known]}})

    def evaluate(self) -> Evaluation[Any]:
        return JOB_BENCH.evaluate(self.case(), self.entries)

    def done(self, step: str, by: str = "Ada", **more: Any) -> None:
        self.say(by, kind="done", step=step, **more)

    def to_end(self, stop_at: str = "", most: int = 120) -> Evaluation[Any]:
        """Go through every step as somebody would who does everything right, up to (not with) one."""
        e = self.evaluate()
        for _ in range(most):
            step = next((s for s in e.view.steps if s.state == "now"), None)
            if step is None or step.id == stop_at:
                return e
            self.meet(step)
            e = self.evaluate()
            assert any(s.id == step.id and s.state == "done" for s in e.view.steps), (
                step.id,
                [q.args for q in e.questions],
            )
        raise AssertionError("the job does not end")

    def meet(self, step: Any) -> None:
        """Bring about what this step waits for, then confirm it."""
        if step.meets in ("isolated", "proved"):
            self.moment("proved")
        if step.meets == "given_back":
            self.moment("given_back")
        if step.meets in ("record", "before"):
            self.record(step.opens)
        if step.meets == "leads":
            for lead in ("U1", "V1", "W1"):
                self.say(kind="lead", lead=lead, conductor=f"L{lead}")
        if step.meets == "cause":
            self.say(kind="cause", cause="bearing frame ran dry", root="no oil round")
        if step.shop == "send":
            self.say(kind="sent", what="pump", shop="the shop", wrote=["symptoms"], promised="2026-03-20")
        if step.shop == "back":
            self.say(kind="accepted", what="pump", good="yes", wrote=["run-outs"])
        if step.proves:
            self.prove(step.proves)
        for look in step.looks:
            sound = [x.id for x in look.signs if x.fate == "reuse"]
            self.say(kind="look", step=step.id, look=look.look, signs=sound or [look.signs[0].id])
        if step.off and not any(m["state"] == "proved" for m in self.known["moments"][-1:]):
            self.moment("proved")
        more: dict[str, Any] = {"said": "as it was"} if step.found and step.meets != "leads" else {}
        if step.figure is not None:
            more["figure"] = {"text": FIGURES[figure_name(step.id)]}
        self.done(step.id, "Ben" if step.second else "Ada", **more)

    def prove(self, what: str) -> None:
        if what in ("amps", "volts"):
            self.record("running_check")
        if what == "vibration":
            self.record("vibration")
        if what == "direction":
            self.say(kind="arrow", right="yes")
        if what == "head":
            head = {"before": {"text": "24"}, "after": {"text": "24.4"}}
            self.say(kind="head", **head, sign="meter", valve="same")
        if what in ("seal", "heat"):
            self.passes(60)
        if what == "seal":
            self.say(kind="drip", minute={"text": "4 min"}, drops={"text": "3"})
            self.say(kind="drip", minute={"text": "31 min"}, drops={"text": "0"})
        if what == "heat":
            for minute, temp in (("40 min", "58"), ("50 min", "58.4")):
                self.say(kind="heat", minute={"text": minute}, bearing={"text": temp}, ambient={"text": "24"})

    def close(self) -> Evaluation[Any]:
        self.say(kind="cause", cause="worn out", root="hours")
        self.say(kind="hours", who_worked="Ada", hours={"text": "3.5"})
        return self.evaluate()
