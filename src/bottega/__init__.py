"""Bottega: the workbench application of a washer technician."""

__version__ = "0.1.0"
