"""The rules of the job: plain Python, no web, no database, no clock, no files at call time."""

__version__ = "0.6.0"

# The rooms, lowest first: the order in which their data files are read. A room not named here comes behind
# them.
ROOMS = (
    "base",
    "plant",
    "instruments",
    "logbook",
    "safety",
    "stores",
    "electrical",
    "alignment",
    "hydraulics",
    "jobs",
)
