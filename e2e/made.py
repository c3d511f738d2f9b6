"""Make the demo that the end-to-end tests begin with, ahead of them, while a processor is free."""

from __future__ import annotations

import sys
from pathlib import Path

from conftest import Stack


def main() -> None:
    stack = Stack(Path(sys.executable))
    if stack.dumped().exists():
        return
    stack.db.start(fast=True)
    try:
        stack.load()
    finally:
        stack.db.stop()


if __name__ == "__main__":
    main()
