"""Overhauls: what a job is told of its set, procedures of a site, what is under way, when it is back."""
