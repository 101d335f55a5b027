"""Forecasts: better than the naive ones, intervals that hold, refusals, and how they are asked for."""

from __future__ import annotations

import contextlib
import datetime as dt
import io
import os
import unittest
import warnings

import numpy as np
from scipy.stats import norm
from statsmodels.tsa.holtwinters import ExponentialSmoothing, SimpleExpSmoothing

from gumption.core.study.forecast import Forecast
from gumption.core.study.series import MODELS, Floats, forecast
from gumption.engines.choosing import chosen
from tests.support import DEMO_DAY, demo, tables_for

SERIES = int(os.environ.get("GUMPTION_SERIES", "40"))
"""200 in the long run, which sets it."""


def series(seed: int) -> tuple[Floats, Floats]:
    """What was and what came of a made-up series, with a trend, a season, a break or gaps, or none of them."""
    chance = np.random.default_rng(seed)
    n, steps = int(chance.integers(30, 72)), int(chance.integers(3, 13))
    at, level = np.arange(n + steps), chance.uniform(100, 1000)
    y = np.full(n + steps, level)
    if seed % 5 in (0, 1, 3):
        y += chance.uniform(-0.6, 1.2) * level / 100 * at
    if seed % 5 in (0, 2, 3):
        y += level * chance.uniform(0.03, 0.25) * chance.normal(size=12)[at % 12]
    noise = chance.normal(size=n + steps) * level * chance.uniform(0.02, 0.12)
    y += np.cumsum(noise) / 2 if seed % 5 == 4 else noise
    if seed % 7 == 0:
        y[int(chance.integers(5, n - 6)) :] += chance.choice([-1, 1]) * level * 0.2
    y = np.maximum(y, 0)
    if seed % 11 == 0:
        gone = chance.integers(1, n - 1, 2)
        known = np.setdiff1d(np.arange(n), gone)
        y[:n] = np.interp(np.arange(n), known, y[known])
    return y[:n], y[n:]


class Telling(unittest.TestCase):
    def test_made_up_series(self) -> None:
        held, errors, last, before = [], [], [], []
        for seed in range(SERIES):
            was, came = series(seed)
            told = forecast(list(was), 12, len(came))
            assert told is not None
            held += list((came >= told.low) & (came <= told.high))
            scale, steps = float(np.mean(was)), len(came)
            errors.append(float(np.mean(np.abs(came - told.values))) / scale)
            last.append(float(np.mean(np.abs(came - was[-1]))) / scale)
            season = np.array([was[len(was) - 12 + i % 12] for i in range(steps)])
            before.append(float(np.mean(np.abs(came - season))) / scale)
        self.assertLessEqual(np.mean(errors), min(np.mean(last), np.mean(before)), "as good as the better naive one")
        # Of fewer series the share is less sure.
        least, most = (0.75, 0.85) if SERIES >= 200 else (0.7, 0.88)
        self.assertTrue(least <= float(np.mean(held)) <= most, f"80% intervals held {np.mean(held):.3f}")

    def test_a_line_and_a_season_without_noise_are_told_exactly(self) -> None:
        at = np.arange(60)
        season = 20 * np.sin(at * 2 * np.pi / 12)
        told = forecast(list(100 + 2 * at[:48] + season[:48]), 12, 12)
        assert told is not None and told.beats
        np.testing.assert_allclose(told.values, 100 + 2 * at[48:] + season[48:], rtol=0.03)

    def test_smoothing_is_the_textbook_one(self) -> None:
        """Simple smoothing of a constant series, and of one step up, by hand: l = a*y + (1-a)*l."""
        level = next(m for m in MODELS if m.name == "smoothed level")
        y = np.array([10.0] * 6 + [20.0] * 14)
        [told] = level.forecast(y, range(20, 21), 1, 3, np.zeros(23))
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            fitted = SimpleExpSmoothing(y, initialization_method="estimated").fit()
        alpha, smoothed = fitted.params["smoothing_level"], fitted.params["initial_level"]
        for value in y:
            smoothed = alpha * value + (1 - alpha) * smoothed
        np.testing.assert_allclose(told, [smoothed] * 3, rtol=1e-3)

    def test_smoothing_follows_what_comes_between_two_fits(self) -> None:
        """As statsmodels does with the weights and the start of the fit before."""
        y, _ = series(3)
        at = len(y) - 3
        for model in (m for m in MODELS if m.smoothing is not None):
            with self.subTest(model.name), warnings.catch_warnings():
                warnings.simplefilter("ignore")
                assert model.smoothing is not None
                said = model.smoothing | ({"seasonal_periods": 12} if "seasonal" in model.smoothing else {})
                start = "heuristic" if said else "estimated"
                fitted = ExponentialSmoothing(y[:at], initialization_method=start, **said).fit(use_brute=False).params
                began = {
                    f"initial_{n}": fitted[f"initial_{n}"] for n in ("level", "trend") if n in said or n == "level"
                }
                if "seasonal" in said:
                    began["initial_seasonal"] = fitted["initial_seasons"]
                weights = ("smoothing_level", "smoothing_trend", "smoothing_seasonal", "damping_trend")
                held = {n: fitted[n] for n in weights if not np.isnan(fitted[n])}
                whole = ExponentialSmoothing(y, initialization_method="known", **began, **said)
                *_, told = model.forecast(y, range(at, len(y) + 1), 12, 8, np.zeros(len(y) + 8))
                np.testing.assert_allclose(told, whole.fit(optimized=False, **held).forecast(8))

    def test_too_short_and_nothing_to_beat(self) -> None:
        self.assertIsNone(forecast([1.0, 2.0, 3.0], 12, 6))
        refused = 0
        for seed in range(20):
            walk = 1000 + np.cumsum(norm.rvs(size=40, random_state=seed))
            told = forecast(list(walk), 12, 6)
            assert told is not None
            refused += not told.beats
        self.assertGreater(refused, 8, "of a walk at random mostly nothing can be told")


class Asking(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        opened, cls.reader = demo()
        cls.answerer = opened.answerer

    def test_in_many_words(self) -> None:
        for question, figure, step, first, last in (
            ("forecast visits for six months", "the number of visits", "month", "November 2026", "April 2027"),
            ("predict income for next quarter", "the total fee net", "month", "January 2027", "March 2027"),
            ("what will income be next year", "the total fee net", "month", "January 2027", "December 2027"),
            (
                "how many visits will we have in December",
                "the number of visits",
                "month",
                "December 2026",
                "December 2026",
            ),
            ("visits forecast for 2027", "the number of visits", "month", "January 2027", "December 2027"),
            ("can visits be forecast?", "the number of visits", "month", "November 2026", "April 2027"),
            ("expected income over the next 3 months", "the total fee net", "month", "November 2026", "January 2027"),
            ("where is the average rating heading", "the average rating", "month", "November 2026", "April 2027"),
            ("project cost to the end of 2027", "the total cost", "month", "November 2026", "December 2027"),
            (
                "forecast visits for dogs for the next 3 months",
                "the number of visits, where species is Dog",
                "month",
                "November 2026",
                "January 2027",
            ),
        ):
            with self.subTest(question):
                found = self.reader.read(question, DEMO_DAY)
                self.assertEqual(found.status, "answered", found.problem)
                study = found.readings[0].study
                assert isinstance(study, Forecast)
                told = study.figure, study.step, study.period_name(study.asked[0]), study.period_name(study.asked[-1])
                self.assertEqual(told, (figure, step, first, last))

    def test_questions_of_what_was_stay_questions(self) -> None:
        for question in (
            "visits in the last six months",
            "expected delivery date",
            "how many visits are there",
            "income by month",
        ):
            with self.subTest(question):
                found = self.reader.read(question, DEMO_DAY)
                self.assertTrue(all(not isinstance(r.study, Forecast) for r in found.readings))

    def test_the_script_tells_the_same(self) -> None:
        reading = chosen(self.reader.read("forecast visits for six months", DEMO_DAY), self.answerer).readings[0]
        answered = self.answerer.answer(reading.plan, DEMO_DAY, study=reading.study)
        _, _, code = answered.python.partition("print(answer.to_string(index=False))\n")
        import pandas as pd

        columns, rows = self.answerer.rows(reading.plan)
        answer = pd.DataFrame(rows, columns=list(columns))
        said = io.StringIO()
        with contextlib.redirect_stdout(said):
            exec(code, {"answer": answer, "pd": pd})
        told = [float(line.split()[-1]) for line in said.getvalue().splitlines() if line[:4].isdigit()]
        np.testing.assert_allclose(told, [float(str(row[1])) for row in answered.rows], rtol=0.01)

    def test_short_history_is_refused(self) -> None:
        text = "day,amount\n" + "".join(f"2025-{month:02d}-15,{100 + month}\n" for month in range(1, 6))
        opened = tables_for(type(self), {"sales.csv": text})
        from gumption.core.reading.read import QuestionReader

        reading = (
            QuestionReader(opened.catalogue).read("forecast amount for three months", dt.date(2025, 6, 30)).readings[0]
        )
        answered = opened.answerer.answer(reading.plan, dt.date(2025, 6, 30), study=reading.study)
        self.assertIn("cannot be forecast", answered.finding)
        self.assertEqual(answered.total, 4, "the months that are over are shown instead")

    def test_the_answer_before_is_told_on_by_all_that_there_was(self) -> None:
        earlier = self.reader.read("income by month in 2025", DEMO_DAY).readings[0]
        reading = self.reader.read("forecast it for six months", DEMO_DAY, earlier).readings[0]
        assert isinstance(reading.study, Forecast)
        answered = self.answerer.answer(reading.plan, DEMO_DAY, study=reading.study)
        self.assertIn("from November 2026 to April 2027", answered.finding)
        self.assertEqual(answered.total, 6)
