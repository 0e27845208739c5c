"""What can be worked out at the bench: every formula by its name, its inputs held against their
range, and what is known of them already."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from math import isfinite

from bottega.core.bearings.fits import press_force, warm_up
from bottega.core.bearings.rates import bearing_life, impact_rates
from bottega.core.bearings.seating import seat_tilt
from bottega.core.library.formula_record import FormulaRecord
from bottega.core.measure.brushes import brush_left
from bottega.core.measure.capacitor import (
    capacitor_band,
    capacitor_by_current,
    capacitor_running,
    discharge,
)
from bottega.core.measure.draining import drain_head, siphons
from bottega.core.measure.drive import (
    belt_ratio,
    belt_slip,
    clicks,
    coast_down,
    detents,
    synchronous,
    tacho_rpm,
    unbalance,
    wall_force,
)
from bottega.core.measure.flow import (
    bucket,
    bucket_both,
    drops,
    run_on_tally,
    time_to_level,
)
from bottega.core.measure.heating import (
    effective_watts,
    element_ohm,
    heating_watts,
    power_at_mains,
    warming,
)
from bottega.core.measure.joints import bolt_torque
from bottega.core.measure.level import column_pascal, sensor_level, sensor_signal, sensor_span
from bottega.core.measure.mains import earth_ohm, leakage_ma, loop_ohm, voltage_drop
from bottega.core.measure.suspension import swing_by_count, swing_by_heights
from bottega.core.measure.thermistor import (
    thermistor_c,
    thermistor_curve,
    thermistor_ohm,
    thermistor_ratio,
)
from bottega.core.measure.windings import (
    copper_at_20,
    main_against_start,
    quotient,
    three_windings,
    winding_rise,
)

Work = Callable[..., float | tuple[float, ...]]
FORMULAS: dict[str, Work] = {
    work.__name__: work
    for work in (
        element_ohm,
        power_at_mains,
        heating_watts,
        warming,
        effective_watts,
        copper_at_20,
        three_windings,
        main_against_start,
        winding_rise,
        quotient,
        thermistor_ohm,
        thermistor_c,
        thermistor_curve,
        thermistor_ratio,
        capacitor_band,
        discharge,
        capacitor_running,
        capacitor_by_current,
        bucket,
        bucket_both,
        run_on_tally,
        drops,
        time_to_level,
        column_pascal,
        sensor_signal,
        sensor_level,
        sensor_span,
        drain_head,
        siphons,
        belt_ratio,
        belt_slip,
        tacho_rpm,
        synchronous,
        wall_force,
        unbalance,
        coast_down,
        detents,
        clicks,
        swing_by_heights,
        swing_by_count,
        brush_left,
        voltage_drop,
        loop_ohm,
        leakage_ma,
        earth_ohm,
        press_force,
        warm_up,
        bearing_life,
        impact_rates,
        seat_tilt,
        bolt_torque,
    )
}


class FormulaError(ValueError):
    """An input that cannot be: ``field`` is its name, empty where it is how they stand to each
    other."""

    def __init__(self, field: str, message: str) -> None:
        super().__init__(message)
        self.field = field


@dataclass(frozen=True)
class Known:
    """A figure that is known already, and where from."""

    amount: float
    source: str


def worked_out(name: str, record: FormulaRecord, given: Mapping[str, float]) -> dict[str, float]:
    """Return what a formula gives, by the names of its record, in their units. Raises
    FormulaError for an input that is missing, no number, out of its range, or cannot be beside
    the others."""
    for key, asked in record.asks.items():
        if key not in given:
            raise FormulaError(key, f"found nothing, expected the {asked.name}")
        amount = given[key]
        if not isfinite(amount) or not asked.least <= amount <= asked.most:
            raise FormulaError(
                key,
                f"found {amount:g}, expected {asked.least:g} to {asked.most:g}",
            )
    try:
        result = FORMULAS[name](**{key: given[key] for key in record.asks})
    except (ZeroDivisionError, OverflowError) as error:
        raise FormulaError("", "found figures nothing can be worked out of") from error
    except ValueError as error:
        raise FormulaError("", str(error)) from error
    amounts = result if isinstance(result, tuple) else (result,)
    return dict(zip(record.gives, amounts, strict=True))


def known_inputs(record: FormulaRecord, facts: Mapping[str, Known]) -> dict[str, Known]:
    """Return which inputs are known already: each from the first of its places that has one within
    its range."""
    found = {}
    for key, asked in record.asks.items():
        for place in asked.from_:
            fact = facts.get(place)
            if fact is not None and asked.least <= fact.amount <= asked.most:
                found[key] = fact
                break
    return found
