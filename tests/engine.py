"""The engine of all tests of one process: each machine type is compiled once."""

from bottega.core.diagnosis.engine import Engine

ENGINE = Engine()
model_of = ENGINE.model
