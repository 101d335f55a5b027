"""Steps behind one that was changed: with a column under another name they give the same rows, and do without one that is gone."""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Sequence
from pathlib import Path

from gumption.core.editing.following import ColumnChange, follow
from gumption.core.model.types import Type, Value
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from tests.support import opened_from

FILES = {
    "sales.csv": "sold_on,shop,kind,fee,cost\n"
    + "".join(
        f"2026-0{1 + i % 5}-0{1 + i % 9},{('Quay', 'Mill', 'Yard')[i % 3]},{('loaf', 'bun')[i % 2]},{10 + (i * 7) % 23},{3 + i % 6}\n"
        for i in range(40)
    ),
    "shops.csv": "shop,town\nQuay,Ashby\nMill,Corley\nYard,Ashby\n",
    "prices.csv": "shop,since,price\nQuay,2025-12-01,4\nQuay,2026-03-01,5\nMill,2025-12-01,6\nYard,2026-02-01,7\n",
}
COLUMNS = ("sold_on", "shop", "kind", "fee", "cost")
NEW = {"sold_on": "day", "shop": "place", "kind": "sort", "fee": "paid", "cost": "spent"}


def ref(name: str) -> ex.ColumnRef:
    return ex.ColumnRef(name=name)


def number(value: int) -> ex.Constant:
    return ex.Constant(type=Type.INTEGER, value=value)


def total(name: str, column: str) -> ex.Aggregate:
    return ex.Aggregate(name=name, function="sum", column=column)


def picked(*names: str) -> st.Pick:
    return st.Pick(columns=tuple(st.Picked(column=n, name=n) for n in names))


def month(column: str) -> st.Derive:
    return st.Derive(name="month", expression=ex.DateFloor(unit="month", value=ref(column)))


def other(table: str, *names: str) -> st.Plan:
    """Another table with its key under a name of its own."""
    columns = tuple(st.Picked(column=n, name="key" if n == "shop" else n) for n in ("shop", *names))
    return st.Plan(steps=(st.Take(table=table), st.Pick(columns=columns)))


DEAR = st.Keep(condition=ex.Compare(op=">", left=ref("fee"), right=number(15)))
BY_SHOP = st.Group(by=("shop",), aggregates=(total("total fee", "fee"), total("total cost", "cost")))

BEHIND: dict[str, tuple[st.Step, ...]] = {
    "kept and grouped": (DEAR, BY_SHOP, st.Sort(keys=(st.SortKey(column="total fee", descending=True),))),
    "worked out": (
        st.Derive(name="left", expression=ex.Arithmetic(op="-", left=ref("fee"), right=ref("cost"))),
        st.Group(by=("kind",), aggregates=(total("left over", "left"),)),
        st.Sort(keys=(st.SortKey(column="kind"),)),
    ),
    "joined": (
        st.Join(other=other("shops", "town"), on=(st.KeyPair(left="shop", right="key"),)),
        st.Group(by=("town",), aggregates=(total("total fee", "fee"),)),
        st.Sort(keys=(st.SortKey(column="town"),)),
    ),
    "at the price then": (
        st.AsOf(
            other=other("prices", "since", "price"),
            on=(st.KeyPair(left="shop", right="key"),),
            at=st.KeyPair(left="sold_on", right="since"),
        ),
        st.Group(by=("price",), aggregates=(total("total fee", "fee"),)),
        st.Sort(keys=(st.SortKey(column="price"),)),
    ),
    "crossed": (
        st.Pivot(
            by=("shop",),
            column="kind",
            into=tuple(
                st.PivotColumn(value=ex.Constant(type=Type.TEXT, value=kind), name=kind) for kind in ("loaf", "bun")
            ),
            aggregate=total("total fee", "fee"),
        ),
        st.Sort(keys=(st.SortKey(column="shop"),)),
    ),
    "laid out": (
        st.Unpivot(columns=("fee", "cost"), name="what", value="amount"),
        st.Group(by=("what",), aggregates=(total("total", "amount"),)),
        st.Sort(keys=(st.SortKey(column="total"),)),
    ),
    "spread": (
        st.Spread(column="kind", separator="/"),
        st.Group(by=("kind",), aggregates=(total("total", "fee"),)),
        st.Sort(keys=(st.SortKey(column="kind"),)),
    ),
    "running": (
        month("sold_on"),
        st.Group(by=("shop", "month"), aggregates=(total("total fee", "fee"),)),
        st.Window(
            name="so far",
            function="running_total",
            column="total fee",
            order=(st.SortKey(column="month"),),
            within=("shop",),
        ),
        st.Sort(keys=(st.SortKey(column="shop"), st.SortKey(column="month"))),
    ),
    "filled in": (
        month("sold_on"),
        st.Group(by=("shop", "month"), aggregates=(total("total fee", "fee"),)),
        st.Fill(column="month", unit="month", within=("shop",), zeros=("total fee",)),
        st.Sort(keys=(st.SortKey(column="shop"), st.SortKey(column="month"))),
    ),
    "the dearest": (
        st.Sort(
            keys=(st.SortKey(column="fee", descending=True), st.SortKey(column="sold_on"), st.SortKey(column="shop"))
        ),
        st.Limit(rows=4),
        picked("shop", "fee"),
    ),
}


class Following(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        scratch = tempfile.TemporaryDirectory()
        cls.addClassCleanup(scratch.cleanup)
        cls.opened, _ = opened_from(Path(scratch.name), FILES)

    def rows(self, steps: Sequence[st.Step]) -> tuple[tuple[str, ...], list[tuple[Value, ...]]]:
        return self.opened.answerer.rows(st.Plan(steps=(st.Take(table="sales"), *steps)))

    def test_under_other_names_the_rows_are_the_same(self) -> None:
        """Each column in its turn, and all of them at once, are shown under another name in front of the steps."""
        for told, steps in BEHIND.items():
            before = self.rows((picked(*COLUMNS), *steps))
            for names in (*({old: new} for old, new in NEW.items()), NEW):
                with self.subTest(told, renamed=names):
                    shown = st.Pick(columns=tuple(st.Picked(column=c, name=names.get(c, c)) for c in COLUMNS))
                    followed, left = follow(steps, ColumnChange(renamed=names))
                    after = self.rows((shown, *followed))
                    laid = {"fee", "cost"} & set(names) if told == "laid out" else ()
                    if laid:
                        # What the columns were called stands in the rows there.
                        self.assertEqual([r[1] for r in after[1]], [r[1] for r in before[1]])
                    else:
                        self.assertEqual(after[1], before[1])
                    self.assertEqual(after[0], tuple(left.renamed.get(n, n) for n in before[0]))

    def test_what_is_gone_is_done_without(self) -> None:
        gone = ColumnChange(gone=frozenset(["cost"]))
        steps = (
            st.Sort(keys=(st.SortKey(column="cost"), st.SortKey(column="fee"), st.SortKey(column="sold_on"))),
            picked("shop", "fee", "cost"),
        )
        followed, left = follow(steps, gone)
        columns, _ = self.rows((picked("sold_on", "shop", "kind", "fee"), *followed))
        self.assertEqual(columns, ("shop", "fee"))
        self.assertEqual(left.gone, {"cost"}, "whatever comes behind knows of it")
        alone = (picked("cost"),)
        self.assertEqual(
            follow(alone, gone)[0], alone, "a list of nothing is left as it was, to be refused with its reason"
        )

    def test_new_ones_are_shown_where_columns_are_chosen(self) -> None:
        change = ColumnChange.between(
            ("shop", "total"), ("shop", "kind", "sum", "count"), {"total": "sum"}, keys=("kind",)
        )
        self.assertEqual((change.renamed, change.keys, change.figures), ({"total": "sum"}, ("kind",), ("count",)))
        (shown,), _ = follow((picked("shop", "total"),), change)
        assert isinstance(shown, st.Pick)
        self.assertEqual([c.name for c in shown.columns], ["kind", "shop", "sum", "count"])

    def test_a_group_keeps_its_own_names(self) -> None:
        (grouped,), left = follow((BY_SHOP,), ColumnChange(renamed={"fee": "paid", "shop": "place"}))
        assert isinstance(grouped, st.Group)
        self.assertEqual([a.name for a in grouped.aggregates], ["total fee", "total cost"])
        self.assertEqual([a.column for a in grouped.aggregates], ["paid", "cost"])
        self.assertEqual((grouped.by, left.renamed), (("place",), {"shop": "place"}))

    def test_no_change_changes_nothing(self) -> None:
        for told, steps in BEHIND.items():
            with self.subTest(told):
                self.assertEqual(follow(steps, ColumnChange()), (steps, ColumnChange()))


if __name__ == "__main__":
    unittest.main()
