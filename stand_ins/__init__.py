"""Small simulated devices that speak real protocols, on loopback: for demo, tests and trying things out."""
