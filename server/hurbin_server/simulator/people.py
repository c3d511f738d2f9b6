"""The demo's people, all invented, and how they sign in."""

PASSWORD = "tidal-lagoon-7"
PEOPLE = (
    ("ines", "Ines Karlo", "admin"),
    ("teodor", "Teodor Mbeki-Lund", "lead"),
    ("saskia", "Saskia Arrowood", "technician"),
    ("jun", "Jun Belacqua", "technician"),
    ("visitor", "Pia Holm (viewer)", "viewer"),
)
