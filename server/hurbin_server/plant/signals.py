"""What others may want to know of the plant without the plant knowing them."""

from django.dispatch import Signal

plate_changed = Signal()  # component
fitting_changed = Signal()  # pump_set
event_added = Signal()  # pump_set
