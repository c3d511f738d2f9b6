"""`python -m cli`: what `./hurbin` hands over to."""

from .main import main

main()
