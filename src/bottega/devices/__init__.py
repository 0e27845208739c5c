"""Instruments on the wire: the meter's client, and a stand-in for a meter."""
