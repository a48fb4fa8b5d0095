"""What could be done instead or next: starts, offers, choices, and how they compare."""
