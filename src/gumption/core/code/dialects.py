"""What the dialects of SQL say differently: a template an operation, and a few ways of writing.

A template is SQL with `_a`, `_b`, `_c` standing for its parts. The first table is DuckDB's, and
sqlglot turns it into the other dialects; the tables after it hold what they must say in other words.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import sqlglot
from sqlglot import exp

Tree = exp.Expr
DialectName = Literal["duckdb", "mariadb", "postgres", "spark", "ansi"]
DIALECTS: tuple[DialectName, ...] = ("duckdb", "mariadb", "postgres", "spark", "ansi")

_ROUNDED = "SIGN(_a) * FLOOR(ABS(_a) * _b + 0.5) / _b"
_PAIRED_A, _PAIRED_B = "CASE WHEN NOT _b IS NULL THEN _a END", "CASE WHEN NOT _a IS NULL THEN _b END"
# What does not vary has no correlation and no slope; sums of squares leave a trace of it.
_A_VARIES, _B_VARIES = (f"MIN({pair}) < MAX({pair})" for pair in (_PAIRED_A, _PAIRED_B))
_DUCKDB = {
    "contains": "CONTAINS(LOWER(_a), _b)",
    "starts": "STARTS_WITH(LOWER(_a), _b)",
    "ends": "ENDS_WITH(LOWER(_a), _b)",
    "pattern_match": "REGEXP_MATCHES(_a, _b)",
    "extract": "NULLIF(REGEXP_EXTRACT(_a, _b), '')",
    "extract group": "NULLIF(REGEXP_EXTRACT(_a, _b, 1), '')",
    "split": "NULLIF(SPLIT_PART(_a, _b, _c), '')",
    "items": "UNNEST(STRING_SPLIT(_a, _b))",
    "item": "TRIM(_a)",
    "slice": "SUBSTRING(_a, _b, _c)",
    "replace": "REPLACE(_a, _b, _c)",
    "lower": "LOWER(_a)",
    "upper": "UPPER(_a)",
    "trim": "TRIM(_a)",
    "length": "LENGTH(_a)",
    "abs": "ABS(_a)",
    "sign": "SIGN(_a)",
    "floor": "FLOOR(_a)",
    "ceiling": "CEIL(_a)",
    "round exact": "ROUND(_a, _b)",
    "round float": "ROUND(_a * _b) / _b",
    "sqrt": "CASE WHEN _a >= 0 THEN SQRT(_a) END",
    "ln": "CASE WHEN _a > 0 THEN LN(_a) END",
    "log10": "CASE WHEN _a > 0 THEN LOG10(_a) END",
    "exp": "EXP(_a)",
    "power": "POWER(_a, _b)",
    "real power": "CASE WHEN _a > 0 OR (_a = 0 AND _b >= 0) OR (_a < 0 AND _b = FLOOR(_b)) THEN POWER(_a, _b) END",
    "divide": "_a / NULLIF(_b, 0)",
    "divide whole": "_a // NULLIF(_b, 0)",
    "rest": "_a % NULLIF(_b, 0)",
    "bin width": "_b + FLOOR((_a - _b) / _c) * _c",
    "year": "EXTRACT(YEAR FROM _a)",
    "quarter": "EXTRACT(QUARTER FROM _a)",
    "month": "EXTRACT(MONTH FROM _a)",
    "week": "EXTRACT(WEEK FROM _a)",
    "day": "EXTRACT(DAY FROM _a)",
    "weekday": "EXTRACT(ISODOW FROM _a)",
    "day_of_year": "EXTRACT(DOY FROM _a)",
    "hour": "EXTRACT(HOUR FROM _a)",
    "minute": "EXTRACT(MINUTE FROM _a)",
    "fiscal_year": "_a + CASE WHEN _b >= _c THEN 1 ELSE 0 END",
    "fiscal_quarter": "CAST(FLOOR((_a + 12 - _b) % 12 / 3.0) AS INT) + 1",
    "floor year": "CAST(DATE_TRUNC('year', _a) AS DATE)",
    "floor quarter": "CAST(DATE_TRUNC('quarter', _a) AS DATE)",
    "floor month": "CAST(DATE_TRUNC('month', _a) AS DATE)",
    "floor week": "CAST(DATE_TRUNC('week', _a) AS DATE)",
    "floor day": "CAST(_a AS DATE)",
    "floor hour": "DATE_TRUNC('hour', _a)",
    "last day": "EXTRACT(DAY FROM LAST_DAY(_a))",
    "days": "_b - _a",
    "hours": "DATE_DIFF('microsecond', CAST(_a AS TIMESTAMP), CAST(_b AS TIMESTAMP)) / CAST(_c AS DOUBLE)",
    "months": "(_a - _b) - CASE WHEN _c < _d AND _c < _e THEN 1 ELSE 0 END",
    "month count": "12 * _a + _b",
    "whole years": "CAST(FLOOR(_a / 12.0) AS INT)",
    "week days": "CAST(5 * FLOOR(_a / 7.0) + LEAST(_a - 7 * FLOOR(_a / 7.0), 5) AS BIGINT)",
    "least flag": "MIN(_a)",
    "greatest flag": "MAX(_a)",
    "mean": "AVG(_a)",
    "share": "AVG(CASE WHEN _a THEN 1 ELSE 0 END)",
    "deviation": "STDDEV_SAMP(_a)",
    "variance": "VAR_SAMP(_a)",
    "percentile": "QUANTILE_CONT(_a, _b)",
    "mode": "MODE(_a ORDER BY _a)",
    "correlation": "NULLIF(CORR(_a, _b), CAST('NaN' AS DOUBLE))",
    "covariance": "COVAR_SAMP(_a, _b)",
    "slope": "NULLIF(REGR_SLOPE(_a, _b), CAST('NaN' AS DOUBLE))",
    "weighted_mean": "SUM(CAST(_a AS DOUBLE) * _b) / NULLIF(SUM(CASE WHEN _a IS NOT NULL THEN _b END), 0)",
    "latest": "FIRST(_a ORDER BY _b DESC, _a) FILTER (WHERE NOT _a IS NULL AND NOT _b IS NULL)",
    "earliest": "FIRST(_a ORDER BY _b, _a) FILTER (WHERE NOT _a IS NULL AND NOT _b IS NULL)",
    "list": "STRING_AGG(DISTINCT _a, ', ' ORDER BY _a)",
}
_POSTGRES = {
    "contains": "POSITION(_b IN LOWER(_a)) > 0",
    "ends": "RIGHT(LOWER(_a), LENGTH(_b)) = _b",
    "items": "UNNEST(STRING_TO_ARRAY(_a, _b))",
    "pattern_match": "_a ~ _b",
    "extract": "NULLIF(SUBSTRING(_a FROM _b), '')",
    "extract group": "NULLIF(SUBSTRING(_a FROM _b), '')",
    "round float": _ROUNDED,
    "divide": "CAST(_a AS DOUBLE PRECISION) / NULLIF(_b, 0)",
    "divide whole": "_a / NULLIF(_b, 0)",
    "last day": "EXTRACT(DAY FROM DATE_TRUNC('month', _a) + INTERVAL '1 MONTH' - INTERVAL '1 DAY')",
    "hours": "CAST(EXTRACT(EPOCH FROM CAST(_b AS TIMESTAMP) - CAST(_a AS TIMESTAMP)) AS DOUBLE PRECISION) * 1000000 / _c",
    "least flag": "BOOL_AND(_a)",
    "greatest flag": "BOOL_OR(_a)",
    "percentile": "PERCENTILE_CONT(_b) WITHIN GROUP (ORDER BY _a)",
    "mode": "MODE() WITHIN GROUP (ORDER BY _a)",
    "deviation": "STDDEV_SAMP(CAST(_a AS DOUBLE PRECISION))",
    "variance": "VAR_SAMP(CAST(_a AS DOUBLE PRECISION))",
    "correlation": f"CASE WHEN {_A_VARIES} AND {_B_VARIES} THEN CORR(_a, _b) END",
    "slope": f"CASE WHEN {_B_VARIES} THEN REGR_SLOPE(_a, _b) END",
    "latest": "(ARRAY_AGG(_a ORDER BY _b DESC, _a) FILTER (WHERE NOT _a IS NULL AND NOT _b IS NULL))[1]",
    "earliest": "(ARRAY_AGG(_a ORDER BY _b, _a) FILTER (WHERE NOT _a IS NULL AND NOT _b IS NULL))[1]",
} | {
    # PostgreSQL gives parts of dates as decimals.
    part: f"CAST(EXTRACT({field} FROM _a) AS INT)"
    for part, field in {
        "year": "YEAR",
        "quarter": "QUARTER",
        "month": "MONTH",
        "week": "WEEK",
        "day": "DAY",
        "weekday": "ISODOW",
        "day_of_year": "DOY",
        "hour": "HOUR",
        "minute": "MINUTE",
    }.items()
}
_PAIR_COUNT = "SUM(CASE WHEN NOT _a IS NULL AND NOT _b IS NULL THEN 1e0 END)"
_PAIR_X, _PAIR_Y = f"SUM({_PAIRED_A})", f"SUM({_PAIRED_B})"
_PAIR_XX = "SUM(CASE WHEN NOT _b IS NULL THEN _a * _a END)"
_PAIR_YY = "SUM(CASE WHEN NOT _a IS NULL THEN _b * _b END)"
_TOGETHER = f"(SUM(_a * _b) - {_PAIR_X} * {_PAIR_Y} / {_PAIR_COUNT})"
_SPREAD_X, _SPREAD_Y = (
    f"({_PAIR_XX} - {_PAIR_X} * {_PAIR_X} / {_PAIR_COUNT})",
    f"({_PAIR_YY} - {_PAIR_Y} * {_PAIR_Y} / {_PAIR_COUNT})",
)
_MARIADB = {
    "contains": "LOCATE(_b, LOWER(_a)) > 0",
    "starts": "LEFT(LOWER(_a), CHAR_LENGTH(_b)) = _b",
    "ends": "RIGHT(LOWER(_a), CHAR_LENGTH(_b)) = _b",
    "pattern_match": "REGEXP_INSTR(_a, _b) > 0",
    "extract": "NULLIF(REGEXP_SUBSTR(_a, _b), '')",
    "extract group": "NULLIF(REGEXP_REPLACE(REGEXP_SUBSTR(_a, _b), _b, '\\\\1'), '')",
    "split": "CASE WHEN CHAR_LENGTH(_a) - CHAR_LENGTH(REPLACE(_a, _b, '')) >= (_c - 1) * CHAR_LENGTH(_b) "
    "THEN NULLIF(SUBSTRING_INDEX(SUBSTRING_INDEX(_a, _b, _c), _b, -1), '') END",
    # The items as a list in JSON, the one thing that it takes apart.
    "items": "JSON_TABLE(CONCAT('[\"', REPLACE(REPLACE(REPLACE(_a, '\\\\', '\\\\\\\\'), '\"', '\\\\\"'), _b, '\",\"'), '\"]'), "
    "'$[*]' COLUMNS (item TEXT PATH '$'))",
    "item": "CAST(TRIM(_a) AS CHAR)",
    "length": "CHAR_LENGTH(_a)",
    "round float": _ROUNDED,
    "divide": "CAST(_a AS DOUBLE) / NULLIF(_b, 0)",
    "divide whole": "_a DIV NULLIF(_b, 0)",
    "week": "WEEK(_a, 3)",
    "weekday": "WEEKDAY(_a) + 1",
    "day_of_year": "DAYOFYEAR(_a)",
    "floor year": "MAKEDATE(YEAR(_a), 1)",
    "floor quarter": "DATE_ADD(MAKEDATE(YEAR(_a), 1), INTERVAL (3 * (QUARTER(_a) - 1)) MONTH)",
    "floor month": "CAST(DATE_FORMAT(_a, '%Y-%m-01') AS DATE)",
    "floor week": "DATE_SUB(CAST(_a AS DATE), INTERVAL (WEEKDAY(_a)) DAY)",
    "floor hour": "CAST(DATE_FORMAT(_a, '%Y-%m-%d %H:00:00') AS DATETIME)",
    "last day": "DAY(LAST_DAY(_a))",
    "days": "DATEDIFF(_b, _a)",
    "hours": "CAST(TIMESTAMPDIFF(MICROSECOND, _a, _b) AS DOUBLE) / _c",
    "fiscal_quarter": "FLOOR((_a + 12 - _b) % 12 / 3.0) + 1",
    "whole years": "FLOOR(_a / 12.0)",
    "week days": "5 * FLOOR(_a / 7.0) + LEAST(_a - 7 * FLOOR(_a / 7.0), 5)",
    "mean": "AVG(CAST(_a AS DOUBLE))",
    "share": "AVG(CASE WHEN _a THEN 1e0 ELSE 0e0 END)",
    "deviation": "STDDEV_SAMP(CAST(_a AS DOUBLE))",
    "variance": "VAR_SAMP(CAST(_a AS DOUBLE))",
    "covariance": f"{_TOGETHER} / NULLIF({_PAIR_COUNT} - 1, 0)",
    "correlation": f"CASE WHEN {_A_VARIES} AND {_B_VARIES} THEN {_TOGETHER} / NULLIF(SQRT({_SPREAD_X} * {_SPREAD_Y}), 0) END",
    "slope": f"CASE WHEN {_B_VARIES} THEN {_TOGETHER} / NULLIF({_SPREAD_Y}, 0) END",
    "list": "GROUP_CONCAT(DISTINCT _a ORDER BY _a SEPARATOR ', ')",
}
# MariaDB's own PERCENTILE_CONT cuts large numbers off, so that a percentile is made from places and a count.
_LOW = "MAX(CASE WHEN _b = FLOOR((_c - 1) * _d) + 1 THEN _a END)"
_HIGH = "MAX(CASE WHEN _b = LEAST(FLOOR((_c - 1) * _d) + 2, _c) THEN _a END)"
_MARIADB["placed percentile"] = f"{_LOW} + ({_HIGH} - {_LOW}) * MAX((_c - 1) * _d - FLOOR((_c - 1) * _d))"
_SPARK = {
    "pattern_match": "_a RLIKE _b",
    "extract": "NULLIF(REGEXP_EXTRACT(_a, _b, 0), '')",
    "starts": "STARTSWITH(LOWER(_a), _b)",
    "ends": "ENDSWITH(LOWER(_a), _b)",
    "round float": _ROUNDED,
    "divide": "CAST(_a AS DOUBLE) / NULLIF(_b, 0)",
    "divide whole": "_a DIV NULLIF(_b, 0)",
    "weekday": "WEEKDAY(_a) + 1",
    "days": "DATEDIFF(_b, _a)",
    "hours": "(UNIX_MICROS(CAST(_b AS TIMESTAMP)) - UNIX_MICROS(CAST(_a AS TIMESTAMP))) / CAST(_c AS DOUBLE)",
    "percentile": "PERCENTILE(_a, _b)",
    "mode": "MODE(_a, TRUE)",
    "correlation": "CORR(_a, _b)",
    "slope": "REGR_SLOPE(_a, _b)",
    "list": "ARRAY_JOIN(SORT_ARRAY(COLLECT_SET(_a)), ', ')",
}
_ANSI = {
    "contains": "POSITION(_b IN LOWER(_a)) > 0",
    "starts": "SUBSTRING(LOWER(_a), 1, CHAR_LENGTH(_b)) = _b",
    "ends": "RIGHT(LOWER(_a), CHAR_LENGTH(_b)) = _b",
    "pattern_match": "REGEXP_LIKE(_a, _b)",
    "extract": "NULLIF(REGEXP_SUBSTR(_a, _b), '')",
    "extract group": "NULLIF(REGEXP_SUBSTR(_a, _b, 1, 1, 'c', 1), '')",
    "items": "UNNEST(STRING_TO_ARRAY(_a, _b))",
    "length": "CHAR_LENGTH(_a)",
    "round float": _ROUNDED,
    "divide": "CAST(_a AS DOUBLE PRECISION) / NULLIF(_b, 0)",
    "divide whole": "CAST(TRUNC(_a / NULLIF(_b, 0)) AS BIGINT)",
    "rest": "MOD(_a, NULLIF(_b, 0))",
    "hours": "EXTRACT(EPOCH FROM CAST(_b AS TIMESTAMP) - CAST(_a AS TIMESTAMP)) * 1000000 / _c",
    "percentile": "PERCENTILE_CONT(_b) WITHIN GROUP (ORDER BY _a)",
    "correlation": "CORR(_a, _b)",
    "slope": "REGR_SLOPE(_a, _b)",
    "list": "LISTAGG(DISTINCT _a, ', ') WITHIN GROUP (ORDER BY _a)",
}


@dataclass(frozen=True)
class Dialect:
    """One dialect: sqlglot's name for it, and its templates over DuckDB's."""

    name: DialectName
    sqlglot_name: str
    templates: dict[str, str]
    windowed: frozenset[str] = frozenset()
    """Aggregates that it knows only as windows, or not at all, so that they are worked out row by row first."""

    gaps_first: bool = False
    """True where missing values come first, ascending, and no words put them last."""

    def write(self, operation: str, *parts: Tree) -> Tree:
        """The operation on its parts, as this dialect says it."""
        own = self.templates.get(operation)
        if own is not None:
            return _filled(own, self.sqlglot_name, parts)
        return _filled(_DUCKDB[operation], "duckdb", parts)

    def render(self, tree: exp.Expr) -> str:
        """The query as text, laid out for reading. Raises sqlglot.UnsupportedError for what this dialect cannot say."""
        return tree.sql(dialect=self.sqlglot_name, pretty=True, unsupported_level=sqlglot.ErrorLevel.RAISE, copy=False)


_ROW_BY_ROW = frozenset({"latest", "earliest"})
_ALL = {
    "duckdb": Dialect("duckdb", "duckdb", {}),
    "mariadb": Dialect("mariadb", "mysql", _MARIADB, frozenset({"median", "percentile", "mode"}) | _ROW_BY_ROW, True),
    "postgres": Dialect("postgres", "postgres", _POSTGRES),
    "spark": Dialect("spark", "spark", _SPARK, _ROW_BY_ROW),
    "ansi": Dialect("ansi", "", _ANSI, frozenset({"mode"}) | _ROW_BY_ROW),
}


def dialect_of(name: DialectName) -> Dialect:
    """The dialect of that name."""
    return _ALL[name]


@lru_cache(maxsize=512)
def _parsed(template: str, dialect: str) -> Tree:
    return sqlglot.parse_one(template, dialect=dialect)


def _filled(template: str, dialect: str, parts: tuple[Tree, ...]) -> Tree:
    names = dict(zip(("_a", "_b", "_c", "_d", "_e"), parts, strict=False))

    def place(node: Tree) -> Tree:
        if isinstance(node, exp.Column) and node.name in names:
            part = names[node.name].copy()
            inside = isinstance(node.parent, (exp.Binary, exp.Unary, exp.Is, exp.Interval))
            return bracketed(part) if inside else part
        return node

    return _parsed(template, dialect).transform(place)


def bracketed(tree: Tree) -> Tree:
    """A tree that may stand inside an operator."""
    loose = isinstance(tree, (exp.Binary, exp.Unary, exp.Is, exp.Between, exp.In)) and not isinstance(
        tree, (exp.Dot, exp.Paren)
    )
    return exp.paren(tree, copy=False) if loose else tree


def is_null(tree: Tree) -> exp.Is:
    """Whether a value is missing; the tree is copied."""
    return exp.Is(this=bracketed(tree.copy()), expression=exp.null())


def is_known(tree: Tree) -> exp.Not:
    """Whether a value is there; the tree is copied."""
    return exp.Not(this=is_null(tree))


@lru_cache(maxsize=64)
def _type(name: str) -> exp.DataType:
    return exp.DataType.build(name)


def cast(tree: Tree, kind: str) -> exp.Cast:
    """A value turned into a type; the tree becomes part of it."""
    return exp.Cast(this=tree, to=_type(kind).copy())
