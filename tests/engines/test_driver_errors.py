"""Every class of the drivers' errors means something to a person: a driver that gains one fails here until it is placed."""

from __future__ import annotations

import unittest
from collections.abc import Iterator
from typing import get_args

import duckdb
import psycopg
import pymysql

from gumption.engines.driver_errors import MEANS, Meaning, meaning_of
from gumption.intake.sources import ADVICE


def below(kind: type[Exception]) -> Iterator[type[Exception]]:
    for one in kind.__subclasses__():
        yield one
        yield from below(one)


class DriverErrors(unittest.TestCase):
    def test_every_class_is_placed(self) -> None:
        self.assertEqual({c for c in below(duckdb.Error) if c.__module__ != __name__} - MEANS.keys(), set())
        self.assertEqual(set(MEANS.values()), set(get_args(Meaning)))
        self.assertEqual({*below(pymysql.MySQLError)} - ADVICE.keys(), set())
        # PostgreSQL has a class for each of its hundreds of states, below those of the standard.
        standard = {
            c for c in below(psycopg.Error) if c.__module__ == "psycopg.errors" and c.__qualname__ in dir(psycopg)
        }
        self.assertEqual(standard - ADVICE.keys(), set())

    def test_the_nearest_class_counts(self) -> None:
        class New(duckdb.ConversionException):
            pass

        self.assertEqual(meaning_of(New("x")), "number")
        self.assertEqual(meaning_of(duckdb.Error("x")), "ours")
