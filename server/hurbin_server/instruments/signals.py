"""What rooms above may want to know of the register, without the register knowing them."""

from django.dispatch import Signal

worth_changed = Signal()  # instrument, since, until: what it read between may be worth something else
