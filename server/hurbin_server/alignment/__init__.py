"""Alignments on the server: shims booked by what was laid, the visit as one page."""
