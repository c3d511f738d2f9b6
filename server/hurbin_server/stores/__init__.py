"""Vans and their shims on the server: counted, booked by jobs, brought in and out as a file."""
