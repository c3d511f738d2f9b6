"""The entry script's words: install, serve, check, measure, a bench without a server."""
