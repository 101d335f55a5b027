"""What a person wrote about columns, put to the tables it is about."""

from __future__ import annotations

import re
from collections.abc import Mapping

from gumption.core.model.catalogue import Column, Table
from gumption.core.model.types import Role, Type

_MONEY = re.compile(
    r"\b(income|revenue|turnover|amount|cost|paid|charged?|salary|spend|budget|fee|rent|price|premium|wages?|euros?|pounds|dollars)\b",
    re.I,
)
_NAME = re.compile(r"^(the )?(full )?name\b|'s (full )?name\b|\bname of\b", re.I)
_SCORE = re.compile(
    r"\b(rating|score|per (night|hour|unit|kilo|head|day|month|person|piece)|rate|percentage|per cent|agree|one|each)\b",
    re.I,
)


_COUNT = re.compile(
    r"^(the )?(number|no\.|count|how many|quantity)\b|\b(incidents|reports|cases|events|people|units)\b", re.I
)


def described(table: Table, file: str, descriptions: Mapping[str, object]) -> Table:
    """The table with the meanings that a person wrote for its columns, for this file or for all."""
    own = descriptions.get(file)
    meanings = own if isinstance(own, dict) else descriptions
    columns = tuple(
        described_as(c, str(meanings[c.name]), table.rows) if isinstance(meanings.get(c.name), str) else c
        for c in table.columns
    )
    return table.model_copy(update={"columns": columns})


def described_as(column: Column, description: str, rows: int = 0) -> Column:
    """The column with its description, and with the role that the description tells where its name told none."""
    role = column.role
    told_apart = rows > 1 and column.distinct >= 0.6 * (rows - column.missing)
    if column.type is Type.TEXT and role in (Role.TEXT, Role.CATEGORY) and told_apart and _NAME.search(description):
        role = Role.NAME
    if column.type.is_number and role in (Role.QUANTITY, Role.SCORE):
        if _SCORE.search(description):
            role = Role.SCORE
        elif _MONEY.search(description):
            role = Role.MONEY
    if column.type is Type.INTEGER and role in (Role.QUANTITY, Role.SCORE) and column.distinct <= 12:
        codes = [v for v in (column.low, column.high) if v is not None]
        if len(set(codes)) == 2 and all(
            re.search(
                rf"(?<![\w.]){re.escape(v)}\s*[=:]?\s+[a-z]|(?<![\w.]){re.escape(v)}\s*[=:]\s*[a-z]", description, re.I
            )
            for v in codes
        ):
            # 1 men, 2 women: numbers that stand for something are no amounts.
            role = Role.CODE
    if column.type is Type.INTEGER and role is Role.MONEY and column.unit is None:
        # Sales may be how many there were, and fly tips are no tips.
        if _COUNT.search(description) and not _MONEY.search(description):
            role = Role.QUANTITY
    return column.model_copy(update={"description": description, "role": role})
