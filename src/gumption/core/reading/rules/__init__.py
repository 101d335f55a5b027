"""The grammar, by family; a newcomer who wants a wording to be read adds one rule to one file."""

from gumption.core.reading.grammar import Grammar
from gumption.core.reading.rules import (
    against_all,
    arithmetic,
    bands,
    comparisons,
    conditions,
    conversation,
    counting,
    differences,
    either,
    follow_ups,
    groups,
    kinds,
    listing,
    members,
    order,
    places,
    portions,
    quantifiers,
    quantities,
    ranges,
    reshaping,
    shares,
    sides,
    sorting,
    than,
    told_by,
)

FAMILIES = {
    "quantities": quantities.RULES,
    "counting": counting.RULES,
    "conditions": conditions.RULES,
    "comparisons": comparisons.RULES,
    "against_all": against_all.RULES,
    "arithmetic": arithmetic.RULES,
    "bands": bands.RULES,
    "portions": portions.RULES,
    "differences": differences.RULES,
    "either": either.RULES,
    "groups": groups.RULES,
    "kinds": kinds.RULES,
    "listing": listing.RULES,
    "members": members.RULES,
    "order": order.RULES,
    "places": places.RULES,
    "shares": shares.RULES,
    "sides": sides.RULES,
    "sorting": sorting.RULES,
    "than": than.RULES,
    "told_by": told_by.RULES,
    "quantifiers": quantifiers.RULES,
    "ranges": ranges.RULES,
    "reshaping": reshaping.RULES,
    "conversation": conversation.RULES,
}

GRAMMAR = Grammar([rule for rules in FAMILIES.values() for rule in rules])
FOLLOWING = Grammar([*(rule for rules in FAMILIES.values() for rule in rules), *follow_ups.RULES])
"""What is read where there is a question before."""
