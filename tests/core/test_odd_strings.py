"""Nothing that is typed ends in a stack trace, nor takes long."""

from __future__ import annotations

import os
import time
import unittest

from tests.core.odd_strings import odd_strings
from tests.support import DEMO_DAY, demo

STRINGS = int(os.environ.get("GUMPTION_ODD_STRINGS", "300"))
"""More in the long run, which sets it."""
MOST_SECONDS = 3.0
"""Three times what any reading may take, since other work may run beside the tests."""


class OddStrings(unittest.TestCase):
    def test_whatever_is_typed_is_read_or_refused(self) -> None:
        opened, reader = demo()
        for text in odd_strings(opened.catalogue, STRINGS, seed=11):
            begun = time.perf_counter()
            with self.subTest(text=text):
                found = reader.read(text, DEMO_DAY)
                self.assertIn(found.status, ("answered", "asks", "declined", "told"))
                self.assertTrue(found.readings or found.problem or found.status == "told")
                self.assertNotIn("went wrong", found.problem)
                self.assertLess(time.perf_counter() - begun, MOST_SECONDS)
