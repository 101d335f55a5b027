"""What each kind of the engine's errors means for the person who asked."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

import duckdb

Meaning = Literal["stopped", "no room", "gone", "number", "query", "ours"]
"""Stopped by a person; out of memory or disk; a file is gone; a value that is too large or no number; a query that says
what cannot be; a fault of ours or of the engine."""

MEANS: Mapping[type[duckdb.Error], Meaning] = {
    duckdb.InterruptException: "stopped",
    duckdb.OutOfMemoryException: "no room",
    duckdb.IOException: "gone",
    duckdb.HTTPException: "gone",
    duckdb.PermissionException: "gone",
    duckdb.OutOfRangeException: "number",
    duckdb.ConversionException: "number",
    duckdb.BinderException: "query",
    duckdb.CatalogException: "query",
    duckdb.InvalidInputException: "query",
    duckdb.InvalidTypeException: "query",
    duckdb.NotImplementedException: "query",
    duckdb.ParserException: "query",
    duckdb.SyntaxException: "query",
    duckdb.TypeMismatchException: "query",
    duckdb.ConnectionException: "ours",
    duckdb.ConstraintException: "ours",
    duckdb.DependencyException: "ours",
    duckdb.FatalException: "ours",
    duckdb.InternalException: "ours",
    duckdb.ResourceInUseException: "ours",
    duckdb.SequenceException: "ours",
    duckdb.SerializationException: "ours",
    duckdb.TransactionException: "ours",
    duckdb.DataError: "ours",
    duckdb.DatabaseError: "ours",
    duckdb.IntegrityError: "ours",
    duckdb.InternalError: "ours",
    duckdb.NotSupportedError: "ours",
    duckdb.OperationalError: "ours",
    duckdb.ProgrammingError: "ours",
}


def meaning_of(error: duckdb.Error) -> Meaning:
    """By the error's own class, or the nearest that it is of."""
    return next((MEANS[c] for c in type(error).__mro__ if c in MEANS), "ours")
