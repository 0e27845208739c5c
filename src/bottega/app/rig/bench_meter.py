"""The demo's bench meter: a stand-in on a socket whose leads are those laid on the rig."""

from dataclasses import replace

from bottega.app.rig.leads import touched_last
from bottega.app.workshop import Workshop
from bottega.core.gear import Instrument
from bottega.core.shop import ShopSettings
from bottega.devices.scpi import FUNCTIONS
from bottega.devices.standin import Display, StandIn

NAME = "Bench meter, stand-in"


def start_bench_meter(workshop: Workshop) -> StandIn:
    """Start the stand-in and write its line into the register of test gear."""
    stand_in = StandIn(Display(lambda quantity: touched_last(workshop, quantity))).start()
    meter = Instrument(
        NAME, tuple(FUNCTIONS), calibrated=workshop.now().date(), resource=stand_in.resource
    )
    workshop.change_settings(lambda settings: replace(settings, gear=(*_others(settings), meter)))
    return stand_in


def _others(settings: ShopSettings) -> tuple[Instrument, ...]:
    return tuple(one for one in settings.gear if one.name != NAME)
