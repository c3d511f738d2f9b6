"""Isolation, prove dead, gates, cautions, temporary changes, calls and handing over: what stands between a person and the machine."""

from ..base import load_data

load_data(__name__, "limits.toml", "grounds.toml", "rules.toml", "texts.toml")

from .bench import MAKE_SAFE, check_back_due
from .entry import SINGLE_PHASE, THREE_PHASE, MakeSafeEntry
from .gates import GATES, OFFERS, Act, Answer, SafetyFacts, Waiver, ask, check_waiver
from .stops import ENDS, STARTS_WITHIN, StandingStop, StopWords, TrialRun, check_trial, released, stop_words
from .guarding import DEAD_STATES, STATE_WORDS, amps_seen, energy_seen, guarded, live_finding, volts_seen
from .handover import ORDER, TITLES, Chapter, Tag, leading, read_out
from .isolation import Isolation, LockOn, Proof, SourceState, Worker, fold, scope_words
from .matters import (
    CHANGES, COMPLAINTS, WATCHED, ChangeState, DeferralIn, InterimIn, Threat, TwinState, age, change_words,
    check_back_words, interim, matter_words, standby_clock, threat,
)  # fmt: skip
from .sources import MEANS, SCOPES, SOURCES, STEPS, IsolationSource, SetFacts, check_list, needed, unsaid
from .steps import Step, rail, wanting, way_back
from .tagging import deferral_words, interim_words, isolation_words, waiver_words

__all__ = [
    "CHANGES", "COMPLAINTS", "DEAD_STATES", "ENDS", "GATES", "MAKE_SAFE", "MEANS", "OFFERS", "ORDER", "SCOPES", "SINGLE_PHASE", "SOURCES", "STARTS_WITHIN", "STATE_WORDS",
    "STEPS", "THREE_PHASE", "TITLES", "WATCHED", "Act", "Answer", "ChangeState", "Chapter", "DeferralIn", "InterimIn", "Isolation", "IsolationSource",
    "LockOn", "MakeSafeEntry", "Proof", "SafetyFacts", "SetFacts", "SourceState", "StandingStop", "Step", "StopWords", "Tag", "Threat", "TrialRun", "TwinState", "Waiver", "Worker", "age", "amps_seen", "ask",
    "change_words", "check_back_due", "check_back_words", "check_list", "check_trial", "check_waiver", "deferral_words", "energy_seen", "fold", "guarded", "interim", "interim_words", "isolation_words", "leading", "live_finding", "matter_words", "needed", "rail", "read_out", "released", "scope_words", "standby_clock", "stop_words",
    "threat", "unsaid", "volts_seen", "waiver_words", "wanting", "way_back",
]  # fmt: skip
