"""Plans as SQL on real engines: MariaDB and PostgreSQL give the rows of the second working."""

from __future__ import annotations

import random
import unittest
from collections.abc import Callable, Sequence
from typing import Any

import psycopg
import pymysql
import sqlglot
from sqlglot import exp

from gumption.cli.files import Opened
from gumption.core.checks.twice import rows_agree
from gumption.core.code.dialects import DIALECTS, DialectName, dialect_of
from gumption.core.code.sql import plan_sql, render
from gumption.core.evaluate.run import work
from gumption.core.model.catalogue import Table
from gumption.core.model.types import Type
from gumption.core.plan.fields import Field
from gumption.core.plan.typing import schema_of
from tests.core.random_plans import Maker, tables
from tests.databases import POSTGRES_HERE, POSTGRES_LOGIN, mariadb, postgres
from tests.support import tables_for

SEED, PLANS = 11, 150
Run = Callable[[str], list[Sequence[Any]]]


def columns_sql(table: Table, names: dict[Type, str], quote: str) -> str:
    kinds = {c.name: names[c.type].format(scale=c.scale) for c in table.columns}
    return f"CREATE TABLE {table.name} ({', '.join(f'{quote}{n}{quote} {k}' for n, k in kinds.items())})"


class Dialects(unittest.TestCase):
    opened: Opened

    @classmethod
    def setUpClass(cls) -> None:
        chance = random.Random(SEED)
        cls.opened = tables_for(cls, tables(chance, 160))
        maker = Maker(chance, cls.opened.catalogue)
        cls.plans = [maker.plan() for _ in range(PLANS)]

    def fill(
        self,
        execute: Callable[[str], object],
        insert: Callable[[str, list[Any]], object],
        types: dict[Type, str],
        quote: str,
    ) -> None:
        for table in self.opened.catalogue.tables:
            execute(columns_sql(table, types, quote))
            _, rows = self.opened.answerer.engine.run(f"SELECT * FROM {table.name}")
            insert(f"INSERT INTO {table.name} VALUES ({', '.join(['%s'] * len(table.columns))})", rows)

    def agree(self, dialect: DialectName, run: Run) -> None:
        for number, plan in enumerate(self.plans):
            sql = render(plan_sql(plan, self.opened.catalogue, dialect), dialect)
            with self.subTest(number=number):
                try:
                    worked = work(plan, self.opened.answerer.engine.column, self.opened.answerer.sizes)
                except OverflowError:
                    continue
                fields = list(schema_of(plan, self.opened.catalogue).values())
                rows = [[_as(value, field) for value, field in zip(row, fields, strict=True)] for row in run(sql)]
                self.assertTrue(rows_agree(rows, worked.rows), f"{sql}\n{plan.model_dump_json(exclude_none=True)}")

    def test_mariadb(self) -> None:
        address = mariadb(self)
        login = {"host": address.host, "port": address.port, "user": address.user, "password": address.password}
        connection = pymysql.connect(**login, database=address.database, charset="utf8mb4")
        self.addCleanup(connection.close)
        cursor = connection.cursor()
        cursor.execute("SET NAMES utf8mb4 COLLATE utf8mb4_nopad_bin")
        text = "VARCHAR(200) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin"
        types = {Type.TEXT: text, Type.INTEGER: "BIGINT", Type.DECIMAL: "DECIMAL(18, {scale})", Type.FLOAT: "DOUBLE"}
        types |= {Type.BOOLEAN: "BOOLEAN", Type.DATE: "DATE", Type.TIMESTAMP: "DATETIME"}
        self.fill(cursor.execute, cursor.executemany, types, "`")

        def run(sql: str) -> list[Sequence[Any]]:
            cursor.execute(sql)
            return list(cursor.fetchall())

        self.agree("mariadb", run)

    @unittest.skipUnless(POSTGRES_HERE, "postgresql is not installed")
    def test_postgresql(self) -> None:
        connection = psycopg.connect(port=postgres(self), autocommit=True, **POSTGRES_LOGIN)
        self.addCleanup(connection.close)
        types = {Type.TEXT: "TEXT", Type.INTEGER: "BIGINT", Type.DECIMAL: "DECIMAL(18, {scale})"}
        types |= {
            Type.FLOAT: "DOUBLE PRECISION",
            Type.BOOLEAN: "BOOLEAN",
            Type.DATE: "DATE",
            Type.TIMESTAMP: "TIMESTAMP",
        }
        cursor = connection.cursor()
        self.fill(
            lambda sql: cursor.execute(sql.encode()),
            lambda sql, rows: cursor.executemany(sql.encode(), rows),
            types,
            '"',
        )
        self.agree("postgres", lambda sql: cursor.execute(sql.encode()).fetchall())

    def test_every_dialect_writes_every_plan(self) -> None:
        """Those that are not run here are at least written, and read again by the library that knows their grammar."""
        for dialect in DIALECTS:
            for plan in self.plans:
                text = render(plan_sql(plan, self.opened.catalogue, dialect), dialect)
                parsed = sqlglot.parse_one(text, dialect=dialect_of(dialect).sqlglot_name)
                self.assertIsInstance(parsed, exp.Query)
                self.assertEqual(parsed.named_selects, list(schema_of(plan, self.opened.catalogue)), text)

    def test_what_a_dialect_cannot_say_is_no_query(self) -> None:
        tree = sqlglot.parse_one(
            "SELECT min(a) OVER (ORDER BY a NULLS LAST ROWS 2 PRECEDING) AS b FROM t", dialect="duckdb"
        )
        assert isinstance(tree, exp.Select)
        with self.assertRaises(sqlglot.UnsupportedError):
            render(tree, "mariadb")


def _as(value: Any, field: Field) -> Any:
    """MariaDB has no booleans of its own."""
    return bool(value) if field.type is Type.BOOLEAN and value is not None else value
