"""Quantities, units, verdicts, limits, findings, the bench registry: what every topic stands on."""

from .drawn import BoltView, FootView, PackPiece, PassView, PlanChoice, PlanView, ShaftPoint, ShaftView
from .errors import HurbinError, Missing, Problem
from .evaluation import (
    Advice, Curve, CurvePaper, CurvePoint, Due, Evaluation, Finding, Ghost, Mark, PaperTick, RunClock, SeriesPoint, StoryLine, rule_title, write,
)  # fmt: skip
from .ground import Lacking, concluded, ordered, stand_on_ground, whole
from .judging import Compared, Judged, MarginLine, Tick, compare, interval, judge, judge_steps, reaches
from .limits import (
    GROUNDS,
    LIMITS,
    MEASURANDS,
    RULES,
    SCHOOLS,
    TEXTS,
    Certainty,
    Ground,
    Limit,
    Limits,
    Measurand,
    Override,
    Rule,
    School,
    Source,
    UsedLimit,
    check_override,
    load_data,
)
from .phrases import Phrase, amount, phrase
from .present import ShownEvaluation, ShownFinding, ShownLimit, ShownLine, ShownPaper, present, show_finding, show_line
from .quantity import Bound, Entered, FieldRule, Quantity, Read, entered_field, field_rules, read, read_fields
from .registry import Bench, Needs, bench, benches, register, rules_version
from .show import SI, Prefs, figure, show, show_limit, show_number, symbol
from .shown_drawn import ShownPass, ShownPlan, ShownQuantity, ShownShaft, show_quantity
from .units import DIMENSIONS, UNITS, Unit, find_unit, from_metric, metric_of, to_metric, unit
from .verdict import By, Unknown, Verdict, worst

load_data(__name__, "texts.toml")

__all__ = [
    "DIMENSIONS", "LIMITS", "Lacking", "MEASURANDS", "RULES", "SCHOOLS", "SI", "TEXTS", "UNITS", "Advice", "Bench", "BoltView", "Bound", "By",
    "Certainty", "Compared", "Curve", "CurvePaper", "CurvePoint", "Due", "Entered", "Evaluation", "FieldRule", "Finding", "FootView", "GROUNDS", "Ghost", "Ground", "HurbinError", "Judged",
    "Limit", "Limits", "MarginLine", "Mark", "Measurand", "Missing", "Needs", "Override", "PackPiece", "PaperTick", "PassView", "Phrase", "PlanChoice", "PlanView", "Prefs", "Problem",
    "Quantity", "Read", "Rule", "RunClock", "School", "SeriesPoint", "ShaftPoint", "ShaftView", "ShownEvaluation", "ShownFinding", "ShownLimit", "ShownLine", "ShownPaper", "ShownPass", "ShownPlan", "ShownShaft",
    "ShownQuantity", "Source", "StoryLine", "Tick", "Unit", "Unknown", "UsedLimit", "Verdict", "amount", "bench", "benches",
    "check_override", "compare", "concluded", "entered_field", "field_rules", "figure", "find_unit", "from_metric", "interval", "judge",
    "judge_steps", "load_data", "metric_of", "ordered", "phrase", "present", "reaches", "read", "read_fields", "register", "rule_title",
    "rules_version", "show", "show_finding", "show_limit", "show_line", "show_number", "show_quantity", "stand_on_ground", "symbol", "to_metric", "unit", "whole", "worst",
    "write",
]  # fmt: skip
