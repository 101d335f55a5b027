"""What columns that a plan works out are called."""

from __future__ import annotations

import re
from collections.abc import Collection

from gumption.core.model.names import free_name
from gumption.core.plan.expressions import AggregateName

PREFIX: dict[AggregateName, str] = {
    "sum": "total",
    "mean": "average",
    "min": "lowest",
    "max": "highest",
    "distinct": "different",
    "mode": "commonest",
}


def aggregate_name(
    function: AggregateName, column: str, percent: float | None = None, taken: Collection[str] = ()
) -> str:
    """The name of an aggregate of a column: total_fee_net, percentile_90_wait."""
    if function == "correlation":
        return free_name("correlation", taken)
    if function == "sum" and re.match(r"total(?![a-z])", column.lower()):
        # What all total tonnes come to are the total tonnes.
        return free_name(column.replace(" ", "_"), taken)
    prefix = f"percentile_{percent or 0:g}" if function == "percentile" else PREFIX.get(function, function)
    return free_name(f"{prefix}_{column}".replace(" ", "_"), taken)
