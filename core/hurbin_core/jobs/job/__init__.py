"""The job of one set: its rail of steps, what is off, what is proved."""

from .bench import JOB_BENCH

__all__ = ["JOB_BENCH"]
