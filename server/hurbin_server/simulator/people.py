"""The demo's people, all invented, and how they sign in."""

PASSWORD = "tidal-lagoon-7"
PEOPLE = (
    ("ines", "Ines Karlo", "admin"),
    ("teodor", "Teodor Mbeki-Lund", "lead"),
    ("saskia", "Saskia Arrowood", "technician"),
    ("jun", "Jun Belacqua", "technician"),
    ("visitor", "Pia Holm (viewer)", "viewer"),
)
# By which those who share a tablet come in there.
PINS = {"teodor": "38620", "saskia": "5093", "jun": "7416"}
