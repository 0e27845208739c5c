"""Run the command line as ``python -m bottega``."""

from bottega.cli import main

main()
