"""Gravel, hiss, rumble: which is it, and which one look or move parts what is left?"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ...base import RULEBOOK, Model
from .entry import SuctionEntry


class Question(Model):
    id: str
    title: str
    answers: list[tuple[str, str]]
    action: bool = False


class Noise(Model):
    id: str
    title: str
    proof: str
    seen: dict[str, dict[str, float]]


class _Noises(Model):
    question: list[Question]
    noise: list[Noise]


_DATA = RULEBOOK.section("hydraulics/suction/noise.toml", _Noises)
QUESTIONS, NOISES = _DATA.question, _DATA.noise
# What is not listed is seen this often, of ten looks.
_ELSE = 1.0


@dataclass(slots=True)
class Told:
    """shares: of each noise, together 1. next: the question that parts them best; None: all are answered."""

    shares: dict[str, float]
    answered: int
    next: Question | None


def _seen(noise: Noise, question: Question, given: str) -> float:
    table = noise.seen[question.id]
    every = sum(table.get(a, _ELSE) for a, _ in question.answers)
    return table.get(given, _ELSE) / every


def told(body: SuctionEntry) -> Told:
    """How likely is each noise by what was seen, all five alike before?"""
    shares = {n.id: 1.0 for n in NOISES}
    given = {q.id: getattr(body, q.id) for q in QUESTIONS}
    for n in NOISES:
        for q in QUESTIONS:
            if given[q.id]:
                shares[n.id] *= _seen(n, q, given[q.id])
    every = sum(shares.values())
    shares = {k: v / every for k, v in shares.items()}
    left = [q for q in QUESTIONS if not given[q.id]]
    best = max(left, key=lambda q: (round(_parts(shares, q), 6), -QUESTIONS.index(q)), default=None)
    return Told(shares, len(QUESTIONS) - len(left), best)


def _parts(shares: dict[str, float], q: Question) -> float:
    """How much, in bits, is an answer to this expected to tell?"""
    told = 0.0
    for answer, _ in q.answers:
        joint = {n.id: shares[n.id] * _seen(n, q, answer) for n in NOISES}
        p = sum(joint.values())
        for n in NOISES:
            j = joint[n.id]
            if j > 0 and p > 0 and shares[n.id] > 0:
                told += j * math.log2(j / (p * shares[n.id]))
    return told
