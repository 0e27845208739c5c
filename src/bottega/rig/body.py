"""How the tub swings on its springs, what reaches the floor, what knocks, and what the bearings
say."""

from math import exp, log10, pi, sqrt

BEL_DB = 10.0
"""Decibel of a power ten times as large."""


def swing_m(
    rad_s: float, unbalance_kgm: float, mass_kg: float, spring_n_m: float, *, damper_ns_m: float
) -> float:
    """Return the amplitude in metre of a mass on springs and dampers with an unbalance turning
    in it, steady: X = m_u·r·ω² / √((k - Mω²)² + (cω)²) (Rao, Mechanical Vibrations)."""
    force = unbalance_kgm * rad_s**2
    return force / sqrt((spring_n_m - mass_kg * rad_s**2) ** 2 + (damper_ns_m * rad_s) ** 2)


def carried_n(rad_s: float, swing: float, spring_n_m: float, damper_ns_m: float) -> float:
    """Return the force in newton that springs and dampers pass on to the cabinet."""
    return swing * sqrt(spring_n_m**2 + (damper_ns_m * rad_s) ** 2)


def damping_ratio(mass_kg: float, spring_n_m: float, damper_ns_m: float) -> float:
    """Return damping over critical, ζ = c / (2√(kM))."""
    return damper_ns_m / (2 * sqrt(spring_n_m * mass_kg))


def swing_ratio(zeta: float) -> float:
    """Return the height of a swing over that of the next, e^(2πζ/√(1-ζ²)) (logarithmic
    decrement)."""
    zeta = min(zeta, 0.99)
    return min(1000.0, exp(2 * pi * zeta / sqrt(1 - zeta * zeta)))


def level_db(power: float) -> float:
    """Return a power over another in decibel."""
    return BEL_DB * log10(power)


def louder_db(*levels_db: float) -> float:
    """Return sounds together in decibel: their powers add."""
    return level_db(sum(10 ** (level / BEL_DB) for level in levels_db))


def spin_db(rpm: float, spall_mm: float, quiet_db: float) -> float:
    """Return how loud a spin is, in decibel: air and motor by the speed's power, and a spall
    that grows with its width and with speed."""
    if rpm < 50:
        return 20.0
    turns = 20 * log10(rpm / 1000)
    return louder_db(quiet_db + turns, quiet_db + turns + 20 * log10(max(spall_mm, 1e-4) / 0.15))
