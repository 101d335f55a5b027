"""Arithmetic and functions of numbers, on NumPy columns. Exact numbers never wrap: OverflowError says that they would."""

from __future__ import annotations

from collections.abc import Callable
from typing import assert_never

import numpy as np

from gumption.core.evaluate.vectors import LARGEST, Floats, Ints, Vector, either_missing, float_vector, rescaled
from gumption.core.model.types import Type
from gumption.core.plan import expressions as ex


def arithmetic(op: ex.ArithmeticOp, left: Vector, right: Vector) -> Vector:
    """Two numbers put together, missing where either is."""
    match op:
        case "/":
            divisor = right.floats()
            with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
                found = np.where(divisor == 0, np.nan, left.floats() / divisor)
            return float_vector(found, Type.DURATION if _lasts(left) and not _lasts(right) else Type.FLOAT)
        case "^":
            with np.errstate(invalid="ignore", over="ignore", divide="ignore"):
                base, power = left.floats(), right.floats()
                return float_vector(np.where((base == 0) & (power < 0), np.nan, np.power(base, power)))
        case "//" | "%":
            return _whole_division(op, left, right)
        case "+" | "-" | "*":
            return _sum_or_product(op, left, right)
        case _:
            assert_never(op)


def _lasts(vector: Vector) -> bool:
    return vector.type is Type.DURATION


def _sum_or_product(op: str, left: Vector, right: Vector) -> Vector:
    work: Callable[..., np.ndarray] = {"+": np.add, "-": np.subtract, "*": np.multiply}[op]
    if _lasts(left) or _lasts(right) or Type.FLOAT in (left.type, right.type):
        with np.errstate(over="ignore", invalid="ignore"):
            found = work(left.floats(), right.floats())
        return float_vector(found, Type.DURATION if _lasts(left) or _lasts(right) else Type.FLOAT)
    kind = Type.DECIMAL if Type.DECIMAL in (left.type, right.type) else Type.INTEGER
    scale = left.scale + right.scale if op == "*" else max(left.scale, right.scale)
    a, b = (left.filled(), right.filled()) if op == "*" else (rescaled(left, scale), rescaled(right, scale))
    high_a, high_b = _size(a), _size(b)
    if (high_a * high_b if op == "*" else high_a + high_b) > LARGEST:
        # The largest of each need not meet in one row: look at the rows themselves.
        with np.errstate(over="ignore"):
            rough = work(a.astype(np.float64), b.astype(np.float64))
        rough[either_missing(left, right)] = 0
        if np.abs(rough).max() > 9.2e18:
            raise OverflowError(f"a result of {op} is too large for exact numbers")
    with np.errstate(over="ignore"):
        return Vector(kind, work(a, b), either_missing(left, right), scale)


def _size(values: Ints) -> int:
    return max(int(values.max()), -int(values.min())) if len(values) else 0


def _whole_division(op: str, left: Vector, right: Vector) -> Vector:
    a, b = left.filled(), right.filled()
    zero = b == 0
    divisor = np.where(zero, 1, b)
    rest = np.fmod(a, divisor)
    found = rest if op == "%" else (a - rest) // divisor
    return Vector(Type.INTEGER, found, np.asarray(either_missing(left, right) | zero))


def half_away(values: Floats) -> Floats:
    """To the nearest whole number, halves away from zero."""
    cut = np.trunc(values)
    return np.asarray(cut + np.where(np.abs(values - cut) >= 0.5, np.sign(values), 0.0))


def number_function(expression: ex.NumberFunction, vector: Vector) -> Vector:
    """A function of each number."""
    exact = vector.type in (Type.INTEGER, Type.DECIMAL)
    match expression.function:
        case "abs":
            return Vector(vector.type, np.abs(vector.values), vector.missing, vector.scale)
        case "sign":
            return Vector(Type.INTEGER, np.sign(vector.filled()).astype(np.int64), vector.missing)
        case "round" if exact:
            return _round_exact(vector, expression.digits)
        case "round":
            step = 10.0**expression.digits
            return float_vector(half_away(vector.floats() * step) / step, vector.type)
        case "floor" | "ceiling" if exact:
            step = 10**vector.scale
            values = vector.filled()
            whole = values // step if expression.function == "floor" else -(-values // step)
            return Vector(vector.type, whole, vector.missing)
        case "floor":
            return float_vector(np.floor(vector.floats()), vector.type)
        case "ceiling":
            return float_vector(np.ceil(vector.floats()), vector.type)
        case "sqrt" | "ln" | "log10" | "exp":
            values = vector.floats()
            with np.errstate(invalid="ignore", divide="ignore", over="ignore"):
                if expression.function == "exp":
                    return float_vector(np.exp(values))
                if expression.function == "sqrt":
                    return float_vector(np.sqrt(values))
                work = np.log if expression.function == "ln" else np.log10
                return float_vector(np.where(values > 0, work(values), np.nan))
        case _:
            assert_never(expression.function)


def _round_exact(vector: Vector, digits: int) -> Vector:
    if digits >= vector.scale:
        return vector
    step = 10 ** (vector.scale - digits)
    values = vector.filled()
    whole = np.sign(values) * ((np.abs(values) + step // 2) // step)
    return Vector(vector.type, whole, vector.missing, digits)


def bins(expression: ex.Bin, vector: Vector) -> Vector:
    """The low edge of the bin that holds each number."""
    values = vector.floats()
    if expression.width is not None:
        return float_vector(
            expression.start + np.floor((values - expression.start) / expression.width) * expression.width
        )
    edges = np.array(expression.edges)
    place = np.searchsorted(edges, values, side="right") - 1
    return float_vector(np.where((place < 0) | np.isnan(values), np.nan, edges[np.maximum(place, 0)]))
