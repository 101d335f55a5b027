"""Made-up series by working day: the same code gives the same values always, and a new day adds to what there was."""

from __future__ import annotations

import datetime as dt
import zlib
from dataclasses import dataclass
from typing import Literal, TypeAlias

import numpy as np
import numpy.typing as npt

BEGIN = dt.date(2015, 1, 1)
"""The first day of every series."""
_DAYS_A_YEAR = 261
Kind: TypeAlias = Literal["exchange rate", "index"]


@dataclass(frozen=True)
class Series:
    """One series, and how its values wander."""

    code: str
    name: str
    unit: str
    kind: Kind
    begins: float
    """The value on the first day."""
    digits: int
    swing: float
    """The standard deviation of a day's change, as a share of the value."""
    drift: float = 0.0
    """By how much it grows in a year, as a share."""
    season: float = 0.0
    """How far summer lies above winter, as a share."""

    def days(self, until: dt.date) -> list[dt.date]:
        """Its days up to one, that one too where it is a working day."""
        days = np.arange(np.datetime64(BEGIN), np.datetime64(until) + 1)
        working: list[dt.date] = days[np.is_busday(days)].tolist()
        return working

    def values(self, days: list[dt.date]) -> npt.NDArray[np.float64]:
        """Its values on its first so many days, one for each."""
        chance = np.random.default_rng(zlib.crc32(self.code.encode())).standard_normal(len(days))
        gone = np.arange(len(days)) / _DAYS_A_YEAR
        # What has wandered off is drawn back a little each day, so that twenty years do not lead to a hundredfold.
        wandered = np.empty(len(days))
        off = 0.0
        for day, step in enumerate(chance):
            off = 0.998 * off + self.swing * step
            wandered[day] = off
        of_year = np.array([day.timetuple().tm_yday for day in days]) / 365.25
        level = self.begins * np.exp(self.drift * gone + wandered) * (1 - self.season / 2 * np.cos(2 * np.pi * of_year))
        return np.round(level, self.digits)


def _rate(code: str, name: str, begins: float, swing: float = 0.0035, digits: int = 4) -> Series:
    return Series(code, name, name.split()[0], "exchange rate", begins, digits, swing)


def _index(code: str, name: str, drift: float, swing: float, season: float = 0.0) -> Series:
    return Series(code, f"{name}, {BEGIN.year} = 100", "points", "index", 100.0, 2, swing, drift, season)


SERIES: tuple[Series, ...] = (
    _rate("GBPEUR", "euro for a pound", 1.19),
    _rate("GBPUSD", "dollars for a pound", 1.34, 0.0045),
    _rate("GBPCHF", "francs for a pound", 1.21),
    _rate("GBPJPY", "yen for a pound", 172.0, 0.0055, 2),
    _rate("GBPSEK", "kronor for a pound", 12.9),
    _rate("GBPPLN", "zloty for a pound", 5.1),
    _rate("EURUSD", "dollars for a euro", 1.12, 0.004),
    _rate("EURCHF", "francs for a euro", 1.03, 0.0025),
    _index("VETPX", "prices of vets", 0.045, 0.0008),
    _index("PETFX", "prices of pet food", 0.03, 0.0012),
    _index("DRUGX", "prices of medicines for animals", 0.035, 0.001),
    _index("FUELX", "prices of fuel", 0.02, 0.008, 0.04),
    _index("WAGEX", "wages", 0.035, 0.0004),
    _index("RENTX", "rents of shops", 0.025, 0.0006),
    _index("SHARX", "shares", 0.05, 0.009),
    _index("TEMPX", "warmth of the days", 0.0, 0.006, 0.5),
)
"""All made up: none is what any market or office ever published."""


def series_of(code: str) -> Series | None:
    """The series of a code, however it is written; None where there is none."""
    return next((s for s in SERIES if s.code == code.strip().upper()), None)
