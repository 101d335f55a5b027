"""Rows of two relations brought together, on NumPy columns."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

import numpy as np

from gumption.core.evaluate.relation import Doubled, Relation
from gumption.core.evaluate.vectors import Ints, Vector, all_missing, comparable, microseconds_of
from gumption.core.plan.steps import AsOf, Join, KeyPair


class JoinMultiplies(Doubled):
    """A row found more than one partner in a join that promised at most one."""


def shared_ids(left: Relation, right: Relation, on: Sequence[KeyPair]) -> tuple[Ints, Ints, int]:
    """Keys of both sides as shared integers below a width; -1 where a part is missing."""
    a, b = np.zeros(left.size, dtype=np.int64), np.zeros(right.size, dtype=np.int64)
    gone_a, gone_b = np.zeros(left.size, dtype=np.bool_), np.zeros(right.size, dtype=np.bool_)
    width = 1
    for pair in on:
        x, y = left.column(pair.left), right.column(pair.right)
        p, q, count = _compact(*comparable(x, y))
        a, b, width = a * count + p, b * count + q, width * count
        if width > 4 * (left.size + right.size) + 1024:
            a, b, width = _numbered(a, b)
        gone_a, gone_b = gone_a | x.missing, gone_b | y.missing
    a[gone_a], b[gone_b] = -1, -1
    return a, b, width


def _compact(p: np.ndarray, q: np.ndarray) -> tuple[Ints, Ints, int]:
    """Integers counted from the least, where they lie close together; else numbered."""
    if p.dtype.kind == "b":
        return p.astype(np.int64), q.astype(np.int64), 2
    if p.dtype.kind == "i" and len(p) + len(q):
        low = min(int(side.min()) for side in (p, q) if len(side))
        high = max(int(side.max()) for side in (p, q) if len(side))
        if high - low <= 4 * (len(p) + len(q)) + 1024:
            return p - low, q - low, high - low + 1
    return _numbered(p, q)


def _numbered(p: np.ndarray, q: np.ndarray) -> tuple[Ints, Ints, int]:
    distinct, codes = np.unique(np.concatenate([p, q]), return_inverse=True)
    return codes[: len(p)], codes[len(p) :], max(len(distinct), 1)


def join(left: Relation, step: Join, right: Relation) -> Relation:
    """The joined rows. Raises JoinMultiplies."""
    if not step.on:
        if right.size > 1:
            raise JoinMultiplies("a join without keys met several rows")
        found = np.zeros(left.size, dtype=np.int64) if right.size else np.full(left.size, -1, dtype=np.int64)
        return _beside(left, right, found, step.how)
    a, b, width = shared_ids(left, right, step.on)
    usable = np.flatnonzero(b >= 0)
    if step.how in ("with", "without"):
        known = np.zeros(width + 1, dtype=np.bool_)
        known[b[usable]] = True
        matched = known[a]
        return left.rows(np.flatnonzero(matched if step.how == "with" else ~matched))
    partner = np.full(width + 1, -1, dtype=np.int64)
    partner[b[usable]] = usable
    found = partner[a]
    if (partner[b[usable]] != usable).any():
        times = np.bincount(b[usable], minlength=width + 1)
        if (times[a[found >= 0]] > 1).any():
            raise JoinMultiplies(f"rows find several partners by {', '.join(p.right for p in step.on)}")
    return _beside(left, right, found, step.how)


def _beside(left: Relation, right: Relation, partner: Ints, how: str) -> Relation:
    """Columns of the right brought beside the left; a partner of -1 is none."""
    matched = partner >= 0
    whole = bool(matched.all())
    if how == "inner" and not whole:
        left, partner, whole = left.rows(np.flatnonzero(matched)), partner[matched], True
    return left.plus({name: partial(_gathered, right, name, partner, whole) for name in right.names})


def _gathered(right: Relation, name: str, partner: Ints, whole: bool) -> Vector:
    vector = right.column(name)
    if not len(vector):
        return all_missing(vector, len(partner))
    if whole:
        return vector.at(partner)
    taken = vector.at(np.maximum(partner, 0))
    return Vector(taken.type, taken.values, taken.missing | (partner < 0), taken.scale, taken.words)


def as_of(left: Relation, step: AsOf, right: Relation) -> Relation:
    """What held at each row's time: the latest row of the right with equal keys that is not after it."""
    a, b, _ = shared_ids(left, right, step.on)
    at, since = left.column(step.at.left), right.column(step.at.right)
    usable = np.flatnonzero((b >= 0) & ~since.missing)
    begins = microseconds_of(since)[usable]
    order = np.lexsort((begins, b[usable]))
    usable, begins, keys = usable[order], begins[order], b[usable][order]
    if ((keys[1:] == keys[:-1]) & (begins[1:] == begins[:-1])).any():
        raise JoinMultiplies(f"two rows hold from the same {step.at.right}")
    moments = microseconds_of(at)
    # Where a row of the left would be put behind all that began by then, the one before it is what held.
    both_keys, both_moments = np.concatenate([keys, a]), np.concatenate([begins, moments])
    side = np.concatenate([np.zeros(len(keys), np.int64), np.ones(len(a), np.int64)])
    ranked = np.lexsort((side, both_moments, both_keys))
    seen = np.maximum.accumulate(np.where(ranked < len(keys), ranked, -1)) if len(ranked) else ranked
    latest = np.empty(len(ranked), dtype=np.int64)
    latest[ranked] = seen
    place = latest[len(keys) :]
    held = (place >= 0) & (a >= 0) & ~at.missing
    safe = np.maximum(place, 0)
    if len(keys):
        held &= keys[safe] == a
        partner = np.where(held, usable[safe], -1)
    else:
        partner = np.full(left.size, -1, dtype=np.int64)
    return _beside(left, right, partner, "left")
