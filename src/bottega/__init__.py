"""Bottega: the workbench application of a washer technician."""

__version__ = "0.8.0"
