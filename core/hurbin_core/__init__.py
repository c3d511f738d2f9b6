"""The rules of the job: plain Python, no web, no database, no clock, no files at call time."""

__version__ = "0.5.0"
