"""Quantities, units, verdicts, limits, findings, the bench registry: what every topic stands on."""

from .drawn import BoltView, FootView, PackPiece, PassView, PlanChoice, PlanView, ShaftPoint, ShaftView
from .errors import HurbinError, Missing, Problem
from .evaluation import (
    Advice, Curve, CurvePaper, CurvePoint, Due, Evaluation, Finding, Ghost, Mark, PaperTick, RunClock, SeriesPoint, StoryLine, rule_title, write,
)  # fmt: skip
from .limits import (
    LIMITS, MEASURANDS, RULES, SCHOOLS, TEXTS, Certainty, Compared, Judged, Limit, Limits, MarginLine, Measurand, Override, Rule, School,
    Source, Tick, UsedLimit, check_override, compare, judge, judge_steps, load_data, reaches,
)  # fmt: skip
from .phrases import Phrase, amount, phrase
from .present import ShownEvaluation, ShownFinding, ShownLimit, ShownLine, ShownPaper, present, show_finding, show_line
from .quantity import Bound, Entered, FieldRule, Quantity, Read, entered_field, field_rules, read, read_fields
from .registry import Bench, Needs, bench, benches, register, rules_version
from .show import SI, Prefs, figure, show, show_limit, show_number, symbol
from .shown_drawn import ShownPass, ShownPlan, ShownQuantity, ShownShaft, show_quantity
from .units import DIMENSIONS, UNITS, Unit, find_unit, from_metric, metric_of, to_metric, unit
from .verdict import By, Unknown, Verdict, worst

__all__ = [
    "DIMENSIONS", "LIMITS", "MEASURANDS", "RULES", "SCHOOLS", "SI", "TEXTS", "UNITS", "Advice", "Bench", "BoltView", "Bound", "By",
    "Certainty", "Compared", "Curve", "CurvePaper", "CurvePoint", "Due", "Entered", "Evaluation", "FieldRule", "Finding", "FootView", "Ghost", "HurbinError", "Judged",
    "Limit", "Limits", "MarginLine", "Mark", "Measurand", "Missing", "Needs", "Override", "PackPiece", "PaperTick", "PassView", "Phrase", "PlanChoice", "PlanView", "Prefs", "Problem",
    "Quantity", "Read", "Rule", "RunClock", "School", "SeriesPoint", "ShaftPoint", "ShaftView", "ShownEvaluation", "ShownFinding", "ShownLimit", "ShownLine", "ShownPaper", "ShownPass", "ShownPlan", "ShownShaft",
    "ShownQuantity", "Source", "StoryLine", "Tick", "Unit", "Unknown", "UsedLimit", "Verdict", "amount", "bench", "benches",
    "check_override", "compare", "entered_field", "field_rules", "figure", "find_unit", "from_metric", "judge",
    "judge_steps", "load_data", "metric_of", "phrase", "present", "reaches", "read", "read_fields", "register", "rule_title",
    "rules_version", "show", "show_finding", "show_limit", "show_line", "show_number", "show_quantity", "symbol", "to_metric", "unit", "worst",
    "write",
]  # fmt: skip
