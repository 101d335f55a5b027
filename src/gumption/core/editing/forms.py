"""Each step of a plan as a form that a person fills in, and the steps that a filled form stands for."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import Any, Literal, NamedTuple, NoReturn, TypeAlias, cast, get_args

from pydantic import Field as Given
from pydantic import ValidationError

from gumption.core.editing.conditions import HELD, Known, as_clause, clauses, condition_of, lefts
from gumption.core.model.names import free_name
from gumption.core.plan import expressions as ex
from gumption.core.plan import steps as st
from gumption.core.plan.expressions import Aggregate, AggregateName, Node
from gumption.core.plan.fields import PlanError, Schema, need
from gumption.core.plan.formula import parse_formula
from gumption.core.plan.formula_text import formula_text
from gumption.core.plan.naming import aggregate_name
from gumption.core.plan.steps import Step
from gumption.core.plan.words import spoken

Value: TypeAlias = str | tuple[str, ...]
StepKind = Literal[
    "keep", "derive", "join", "group", "pivot", "unpivot", "spread", "window", "fill", "sort", "limit", "pick"
]
_UNITS = ("year", "quarter", "month", "week")


class Option(Node):
    """One thing to choose."""

    value: str
    label: str
    takes: int = 0
    """How many values go with it; `conditions.MANY` stands for any number."""
    wants: tuple[str, ...] = ()
    """Slots that matter only where an option that wants them is chosen."""
    type: str = ""
    values: tuple[str, ...] = ()
    """What those values are likely to be."""


class Slot(Node):
    """One thing to fill in."""

    key: str
    label: str
    kind: Literal["choice", "choices", "number", "text", "values"]
    options: tuple[Option, ...] = ()


class Filled(Node):
    """What stands in a form."""

    values: dict[str, Value] = Given(default_factory=dict)
    rows: tuple[dict[str, Value], ...] = Given(default=(), max_length=200)


class Form(Node):
    """A step as a form: slots that are there once, and those of a row of which there may be several."""

    step: StepKind
    slots: tuple[Slot, ...] = ()
    row: tuple[Slot, ...] = ()
    filled: Filled = Filled()


class Meant(NamedTuple):
    """What a filled form stands for: steps, and what became of the names of columns."""

    steps: tuple[Step, ...]
    renamed: Mapping[str, str]


def form_of(step: Step, before: Schema, known: Known) -> Form | None:
    """The form of a step over the columns before it; None where it can only be switched off."""
    match step:
        case st.Keep(condition=condition):
            return _keep_form(condition, before, known)
        case st.Derive(name=name, expression=expression):
            text = formula_text(expression)
            return None if text is None else _filled(_derive_form(), name=spoken(name), formula=text)
        case st.Join(how=how):
            told = ("inner", "left") if how in ("inner", "left") else ("with", "without")
            labels = {
                "inner": "leave out those without a partner",
                "left": "keep those without a partner",
                "with": "those with a partner",
                "without": "those without one",
            }
            choices = tuple(Option(value=h, label=labels[h]) for h in told)
            slot = Slot(key="how", label="Rows", kind="choice", options=choices)
            return Form(step="join", slots=(slot,), filled=Filled(values={"how": how}))
        case st.Group(by=by, aggregates=aggregates):
            rows = tuple(_aggregate_row(a) for a in aggregates)
            return _group_form(before, any(a.function == "share" for a in aggregates)).model_copy(
                update={"filled": Filled(values={"by": by}, rows=rows)}
            )
        case st.Pivot(aggregate=aggregate, totals=totals):
            slots = (*_aggregate_slots(before), Slot(key="totals", label="Totals", kind="choice", options=_YES_NO))
            cell: dict[str, Value] = {**_aggregate_row(aggregate), "totals": "yes" if totals else "no"}
            return Form(step="pivot", slots=slots, filled=Filled(values=cell))
        case st.Unpivot(columns=columns):
            return _filled(Form(step="unpivot", slots=(_columns_slot("columns", "Columns", before),)), columns=columns)
        case st.Spread(column=column):
            return _filled(_spread_form(before, column), column=column)
        case st.Window():
            return _filled(_window_form(before), **_window_values(step))
        case st.Fill(unit=unit):
            if unit == "number":
                return None
            units = tuple(Option(value=u, label=u) for u in ("day", *reversed(_UNITS)))
            return _filled(
                Form(step="fill", slots=(Slot(key="unit", label="Every", kind="choice", options=units),)), unit=unit
            )
        case st.Sort(keys=keys):
            rows = tuple({"column": k.column, "order": "down" if k.descending else "up"} for k in keys)
            return _sort_form(before).model_copy(update={"filled": Filled(rows=rows)})
        case st.Limit(rows=rows_kept):
            return _filled(_LIMIT, rows=str(rows_kept))
        case st.Pick(columns=columns):
            return _filled(_pick_form(before), columns=tuple(c.column for c in columns))
        case _:
            return None


def blank_form(kind: StepKind, before: Schema, known: Known) -> Form:
    """The form of a step that is still to be added. Raises PlanError for one that cannot be."""
    first = next(iter(before), "")
    number = next((n for n, f in before.items() if f.type.is_number), first)
    match kind:
        case "keep":
            return _keep_rows(before, known).model_copy(
                update={
                    "filled": Filled(values={"together": "all"}, rows=({"column": first, "held": "=", "values": ()},))
                }
            )
        case "derive":
            return _filled(_derive_form(), name="", formula="")
        case "group":
            row: dict[str, Value] = {"was": "", "function": "count", "column": "", "other": "", "percent": ""}
            return _group_form(before, False).model_copy(update={"filled": Filled(values={"by": ()}, rows=(row,))})
        case "window":
            share = st.Window(name="share", function="share", column=number)
            return _filled(_window_form(before), **_window_values(share))
        case "spread":
            several = next((n for n, f in before.items() if f.separator), None)
            if several is None:
                raise PlanError("no column here holds several items in a cell")
            return _filled(_spread_form(before, several), column=several)
        case "sort":
            return _sort_form(before).model_copy(update={"filled": Filled(rows=({"column": number, "order": "down"},))})
        case "limit":
            return _filled(_LIMIT, rows="10")
        case "pick":
            return _filled(_pick_form(before), columns=tuple(before))
        case _:
            raise PlanError("such a step cannot be added by hand", "ask a question that needs it")


def steps_of(kind: StepKind, filled: Filled, before: Schema, known: Known, was: Step | None) -> Meant:
    """The steps that a filled form stands for, in place of the step that `was` there. Raises PlanError in words for the person."""
    try:
        return _steps_of(kind, filled, before, known, was)
    except ValidationError as error:
        raise PlanError("the form is not filled in", "look at each of its fields") from error


def _steps_of(kind: StepKind, filled: Filled, before: Schema, known: Known, was: Step | None) -> Meant:
    values = filled.values
    match kind:
        case "keep" if "formula" in values:
            return Meant((st.Keep(condition=parse_formula(_text(values, "formula", "a condition"), before)),), {})
        case "keep":
            rows = [as_clause(row) for row in filled.rows]
            return Meant((st.Keep(condition=condition_of(rows, str(values.get("together")), before, known)),), {})
        case "derive":
            expression = parse_formula(_text(values, "formula", "a formula"), before)
            old = was.name if isinstance(was, st.Derive) else ""
            name = _text(values, "name", "a name").replace(" ", "_")
            name = old if old and spoken(old) == spoken(name) else free_name(name, before)
            return Meant((st.Derive(name=name, expression=expression),), {old: name} if old else {})
        case "join" if isinstance(was, st.Join):
            return Meant((st.Join.model_validate({**dict(was), "how": values.get("how")}),), {})
        case "group":
            return _grouped(filled, before, was if isinstance(was, st.Group) else None)
        case "pivot" if isinstance(was, st.Pivot):
            aggregate = _aggregate(values, {was.aggregate.name: was.aggregate}, was.aggregate.name, before, was.by)
            crossed = was.model_copy(update={"aggregate": aggregate, "totals": values.get("totals") == "yes"})
            return Meant((crossed,), {was.aggregate.name: aggregate.name})
        case "unpivot" if isinstance(was, st.Unpivot):
            return Meant((was.model_copy(update={"columns": _chosen(values, "columns", before)}),), {})
        case "spread":
            column = _text(values, "column", "a column")
            separator = need(before, column).separator or (was.separator if isinstance(was, st.Spread) else "")
            if not separator:
                raise PlanError(f"each cell of {spoken(column)} holds one value", found=column)
            return Meant((st.Spread(column=column, separator=separator),), {})
        case "window":
            return _windowed(values, before, was if isinstance(was, st.Window) else None)
        case "fill" if isinstance(was, st.Fill):
            return Meant((st.Fill.model_validate({**dict(was), "unit": values.get("unit")}),), {})
        case "sort":
            keys = tuple(
                st.SortKey(column=str(row.get("column")), descending=row.get("order") == "down") for row in filled.rows
            )
            if not keys:
                _nothing("a column to sort by")
            return Meant((st.Sort(keys=keys),), {})
        case "limit":
            return Meant((st.Limit(rows=_whole(values, "rows", "how many rows")),), {})
        case "pick":
            named = {c.column: c.name for c in was.columns} if isinstance(was, st.Pick) else {}
            chosen = _chosen(values, "columns", before)
            return Meant((st.Pick(columns=tuple(st.Picked(column=n, name=named.get(n, n)) for n in chosen)),), {})
        case _:
            raise PlanError("this form is of another step", "reload the page")


def _nothing(what: str) -> NoReturn:
    raise PlanError(f"{what} is wanted", "fill it in")


# -- conditions --------------------------------------------------------------------------


def _keep_rows(before: Schema, known: Known) -> Form:
    columns = tuple(
        Option(value=key, label=left.label, type=left.type, values=left.values)
        for key, left in lefts(before, known).items()
    )
    held = tuple(
        Option(value=key, label=label, takes=takes, wants=("values",) if takes else ())
        for key, (label, takes) in HELD.items()
    )
    together = (Option(value="all", label="all of these"), Option(value="any", label="any of these"))
    return Form(
        step="keep",
        slots=(Slot(key="together", label="Keep rows that meet", kind="choice", options=together),),
        row=(
            Slot(key="column", label="Column", kind="choice", options=columns),
            Slot(key="held", label="How", kind="choice", options=held),
            Slot(key="values", label="Value", kind="values"),
        ),
    )


def _keep_form(condition: ex.Expression, before: Schema, known: Known) -> Form | None:
    found = clauses(condition)
    form = _keep_rows(before, known)
    told = {o.value for o in form.row[0].options}
    if found is not None and all(c.column in told for c in found[1]):
        rows: tuple[dict[str, Value], ...] = tuple(
            {"column": c.column, "held": c.held, "values": c.values} for c in found[1]
        )
        return form.model_copy(update={"filled": Filled(values={"together": found[0]}, rows=rows)})
    text = formula_text(condition)
    if text is None:
        return None
    slot = Slot(key="formula", label="Keep rows where", kind="text")
    return Form(step="keep", slots=(slot,), filled=Filled(values={"formula": text}))


# -- groups ------------------------------------------------------------------------------

_FUNCTIONS: dict[AggregateName, str] = {
    "count": "number of",
    "sum": "sum of",
    "mean": "average of",
    "median": "median of",
    "min": "lowest",
    "max": "highest",
    "distinct": "different values of",
    "percentile": "percentile of",
    "deviation": "standard deviation of",
    "mode": "most common",
    "latest": "latest by",
    "earliest": "earliest by",
    "weighted_mean": "average weighted by",
    "correlation": "correlation with",
    "variance": "variance of",
    "covariance": "covariance with",
    "slope": "slope along",
    "list": "list of",
}
_WITH_OTHER = ("latest", "earliest", "weighted_mean", "correlation", "covariance", "slope")
_YES_NO = (Option(value="yes", label="yes"), Option(value="no", label="no"))


def _aggregate_slots(before: Schema, share: bool = False) -> tuple[Slot, ...]:
    functions = [
        Option(
            value=f,
            label=label,
            wants=("column", "other")
            if f in _WITH_OTHER
            else ("column", "percent")
            if f == "percentile"
            else ("column",),
        )
        for f, label in _FUNCTIONS.items()
    ]
    functions += [Option(value="share", label="share of rows")] if share else []
    columns = (Option(value="", label="rows"), *_column_options(before))
    return (
        Slot(key="function", label="What", kind="choice", options=tuple(functions)),
        Slot(key="column", label="Of", kind="choice", options=columns),
        Slot(key="other", label="By", kind="choice", options=columns[1:]),
        Slot(key="percent", label="Per cent", kind="number"),
    )


def _group_form(before: Schema, share: bool) -> Form:
    by = (
        *_column_options(before),
        *(
            Option(value=f"{unit}|{name}", label=f"{unit} of {spoken(name)}")
            for name, field in before.items()
            if field.type.is_time and field.grain is None
            for unit in _UNITS
        ),
    )
    return Form(
        step="group",
        slots=(Slot(key="by", label="For each", kind="choices", options=by),),
        row=_aggregate_slots(before, share),
    )


def _aggregate_row(aggregate: Aggregate) -> dict[str, Value]:
    return {
        "was": aggregate.name,
        "function": aggregate.function,
        "column": aggregate.column or "",
        "other": aggregate.other or "",
        "percent": "" if aggregate.percent is None else f"{aggregate.percent:g}",
    }


def _aggregate(
    row: Mapping[str, Value], known: Mapping[str, Aggregate], was: str, before: Schema, taken: Sequence[str]
) -> Aggregate:
    """The aggregate that a row stands for; one that is as it was keeps its name."""
    old = known.get(was)
    function = str(row.get("function"))
    if function not in get_args(AggregateName):
        _nothing("what to work out")
    name = cast(AggregateName, function)
    column = str(row.get("column") or "") or None
    other = str(row.get("other") or "") or None if name in _WITH_OTHER else None
    percent = None
    if name == "percentile":
        percent = _number(row, "percent", "the per cent, 0 to 100")
    if name == "share":
        column = None
    for needed in (column, other):
        if needed is not None:
            need(before, needed)
    if old is not None and (old.function, old.column, old.other, old.percent) == (name, column, other, percent):
        return old
    called = aggregate_name(name, column, percent, taken) if column is not None else free_name("rows", taken)
    return Aggregate(
        name=called,
        function=name,
        column=column,
        other=other,
        percent=percent,
        where=old.where if old is not None else None,
    )


def _grouped(filled: Filled, before: Schema, was: st.Group | None) -> Meant:
    steps: list[Step] = []
    by: list[str] = []
    taken = set(before)
    for key in _several(filled.values.get("by", ())):
        unit, _, of = key.partition("|") if key not in before else ("", "", key)
        field = need(before, of)
        if not unit:
            by.append(of)
            continue
        if unit not in _UNITS or not field.type.is_time:
            raise PlanError(f"{spoken(of)} has no {unit}", found=unit, accepted=list(_UNITS))
        name = free_name(f"{of}_{unit}", taken)
        taken.add(name)
        floor = ex.DateFloor(unit=cast(Any, unit), value=ex.ColumnRef(name=of))
        steps.append(st.Derive(name=name, expression=floor))
        by.append(name)
    known = {a.name: a for a in was.aggregates} if was is not None else {}
    found: list[Aggregate] = []
    renamed: dict[str, str] = {}
    kept = {str(row.get("was")) for row in filled.rows}
    for row in filled.rows:
        old = str(row.get("was"))
        names = [*by, *(a.name for a in found), *(n for n in known if n in kept and n != old)]
        made = _aggregate(row, known, old, before, names)
        if old in known:
            renamed[old] = made.name
        found.append(made)
    return Meant((*steps, st.Group(by=tuple(dict.fromkeys(by)), aggregates=tuple(found))), renamed)


# -- windows -----------------------------------------------------------------------------

_WINDOWS: dict[st.WindowName, str] = {
    "share": "share of the total",
    "rank": "rank",
    "running_total": "running total",
    "change": "change on the one before",
    "change_percent": "change in per cent",
    "lag": "value of the one before",
    "moving_average": "moving average",
    "moving_total": "moving total",
    "total": "total of all",
    "average": "average of all",
    "lowest": "lowest of all",
    "highest": "highest of all",
    "quantile_bin": "bins of as many rows each",
    "width_bin": "bins of one width",
    "place": "place",
    "lead": "value of the one after",
}
_ROWS = ("moving_average", "moving_total")
_BINS = ("quantile_bin", "width_bin")
_BACK = ("lag", "lead", "change", "change_percent")
_ORDERED = (*_BACK, "running_total", *_ROWS, "rank", "place")


def _window_form(before: Schema) -> Form:
    columns = _column_options(before)
    functions = tuple(
        Option(
            value=f,
            label=label,
            wants=(
                *(("order", "direction") if f in _ORDERED else ()),
                *(("number",) if f in (*_ROWS, *_BINS, *_BACK) else ()),
            ),
        )
        for f, label in _WINDOWS.items()
    )
    return Form(
        step="window",
        slots=(
            Slot(key="function", label="What", kind="choice", options=functions),
            Slot(key="column", label="Of", kind="choice", options=columns),
            Slot(key="order", label="Along", kind="choice", options=columns),
            Slot(key="direction", label="From the", kind="choice", options=_DIRECTIONS),
            Slot(key="number", label="Rows, or bins", kind="number"),
            _columns_slot("within", "Within each", before),
        ),
    )


def _window_values(window: st.Window) -> dict[str, Value]:
    key = window.order[0] if window.order else None
    number = window.rows or window.bins or window.back
    return {
        "function": window.function,
        "column": window.column,
        "order": key.column if key is not None else window.column,
        "direction": "down" if key is not None and key.descending else "up",
        "number": str(number),
        "within": window.within,
    }


def _windowed(values: Mapping[str, Value], before: Schema, was: st.Window | None) -> Meant:
    function = str(values.get("function"))
    number = _whole(values, "number", "how many") if function in (*_ROWS, *_BINS, *_BACK) else None
    key = st.SortKey(column=str(values.get("order")), descending=values.get("direction") == "down")
    ordered = function in _ORDERED
    column = str(values.get("column"))
    same = was is not None and was.function == function and was.column == column
    if same and was is not None:
        name = was.name
    else:
        told = {"change_percent": "change %"}.get(function, function)
        name = free_name(f"{told} {column}".replace(" ", "_"), before)
    window = st.Window.model_validate(
        {
            "name": name,
            "function": function,
            "column": column,
            "order": (key, *(was.order[1:] if same and was is not None else ())) if ordered else (),
            "within": _chosen(values, "within", before, some=False),
            "back": number if function in _BACK else 1,
            "unit": was.unit if same and was is not None and function in _BACK else "row",
            "rows": number if function in _ROWS else None,
            "bins": number if function in _BINS else None,
        }
    )
    return Meant((window,), {was.name: name} if was is not None else {})


# -- the rest ----------------------------------------------------------------------------

_DIRECTIONS = (Option(value="up", label="lowest first"), Option(value="down", label="highest first"))
_LIMIT = Form(step="limit", slots=(Slot(key="rows", label="Rows", kind="number"),))


def _derive_form() -> Form:
    return Form(
        step="derive",
        slots=(Slot(key="name", label="Name", kind="text"), Slot(key="formula", label="Formula", kind="text")),
    )


def _spread_form(before: Schema, chosen: str) -> Form:
    options = tuple(Option(value=n, label=spoken(n)) for n, f in before.items() if f.separator or n == chosen)
    return Form(step="spread", slots=(Slot(key="column", label="Items of", kind="choice", options=options),))


def _sort_form(before: Schema) -> Form:
    return Form(
        step="sort",
        row=(
            Slot(key="column", label="By", kind="choice", options=_column_options(before)),
            Slot(key="order", label="Order", kind="choice", options=_DIRECTIONS),
        ),
    )


def _pick_form(before: Schema) -> Form:
    return Form(step="pick", slots=(_columns_slot("columns", "Columns", before),))


def _filled(form: Form, **values: Value) -> Form:
    return form.model_copy(update={"filled": Filled(values=values)})


def _column_options(before: Schema) -> tuple[Option, ...]:
    return tuple(Option(value=name, label=spoken(name), type=field.type) for name, field in before.items())


def _columns_slot(key: str, label: str, before: Schema) -> Slot:
    return Slot(key=key, label=label, kind="choices", options=_column_options(before))


def _several(value: Value) -> Iterator[str]:
    yield from (value,) if isinstance(value, str) else value


def _chosen(values: Mapping[str, Value], key: str, before: Schema, *, some: bool = True) -> tuple[str, ...]:
    chosen = tuple(dict.fromkeys(_several(values.get(key, ()))))
    for name in chosen:
        need(before, name)
    if some and not chosen:
        _nothing("at least one column")
    return chosen


def _text(values: Mapping[str, Value], key: str, what: str) -> str:
    text = str(values.get(key, "")).strip()
    if not text:
        _nothing(what)
    return text


def _number(values: Mapping[str, Value], key: str, what: str) -> float:
    text = _text(values, key, what)
    try:
        return float(text)
    except ValueError as error:
        raise PlanError(f"“{text}” is no number", f"{what} is wanted", found=text) from error


def _whole(values: Mapping[str, Value], key: str, what: str) -> int:
    number = _number(values, key, what)
    if number < 1 or number != int(number):
        raise PlanError(f"“{number:g}” is not a whole number from 1 on", f"{what} is wanted", found=number)
    return int(number)
