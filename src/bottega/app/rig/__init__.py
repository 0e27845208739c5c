"""Machines of physics to stand in front of: drawn, worked at, called about."""
