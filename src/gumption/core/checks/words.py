"""What checks say: all their sentences, made from what was found."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence

from gumption.core.checks.check import Check, Weight
from gumption.core.evaluate.facts import FEW_VALUES, Dropped, StepRows
from gumption.core.model.names import plural
from gumption.core.model.style import written
from gumption.core.plan.words import day_words, spoken

# -- operations ----------------------------------------------------------------------------------

OPERATIONS_FIT = Check("operation fits", "holds", "Every operation fits the kind of its column")
PRODUCT_OF_PERCENTAGES = Check(
    "percentage of a percentage",
    "caution",
    "Two percentages are multiplied or divided; the result is a percentage of the first's whole",
)


def sum_of_scores(name: str) -> Check:
    sentence = f"{spoken(name)} is a score or rate; its sum may mean nothing"
    return Check("operation fits", "caution", sentence, "an average is usual", "average instead")


def sum_of_codes(name: str) -> Check:
    sentence = f"{spoken(name)} is a code; adding or averaging codes may mean nothing"
    return Check("operation fits", "caution", sentence)


def average_of_averages(name: str) -> Check:
    return Check(
        "average of averages",
        "caution",
        f"{spoken(name)} is an average already; averaging it counts small groups as much as large ones",
        "average the rows themselves, or weight by their number",
    )


def mean_of_ratios(name: str) -> Check:
    return Check(
        "mean of ratios",
        "caution",
        f"{spoken(name)} is a ratio of each row; the mean of ratios is not the ratio of the sums",
        "divide one sum by the other where the whole is meant",
    )


def total_over_a_level(name: str, time: str) -> Check:
    return Check(
        "total over a level",
        "caution",
        f"{spoken(name)} is counted at a moment; adding it up over {spoken(time)} counts the same things again",
        "ask for the latest, or for the average over time",
    )


def mixed_units(name: str, unit: str, values: Sequence[str], weight: Weight) -> Check:
    listed = ", ".join(values[:4]) + ("…" if len(values) > 4 else "")
    sentence = f"{spoken(name)} is in {listed}: what is added up is not of one {spoken(unit)}"
    return Check("mixed units", weight, sentence, f"keep one {spoken(unit)}, or group by it")


def percentage_of_a_percentage(name: str, what: str) -> Check:
    return Check(
        "percentage of a percentage",
        "caution",
        f"{spoken(name)} is a percentage already; this is its {what} in per cent, not in points",
        "say points where the difference is meant",
    )


# -- values and joins ----------------------------------------------------------------------------

VALUES_OCCUR = Check("values occur", "holds", "Every value asked for occurs in the data")
ROWS_STAY_SINGLE = Check("rows stay single", "holds", "No join can double a row: its keys are unique on the other side")
ROWS_ACCOUNTED = Check("rows accounted", "holds", "Every row is accounted for at each step")
_JOIN_DOUBLES = "A join would double rows; do not use this answer"


def value_is_not_there(value: object, column: str, near: Sequence[str]) -> Check:
    sentence = f"“{value}” does not occur in {spoken(column)}"
    return Check("values occur", "stop", sentence, f"near it: {', '.join(near)}")


def without_partners(rows: int, table: str, other: str, match_rate: float, *, left_out: bool) -> Check:
    then = "they are left out" if left_out else "they are kept under “missing”"
    sentence = f"{plural(rows, 'row')} of {spoken(table)} find no partner in {spoken(other)}"
    return Check("join keys fit", "caution", sentence, f"{100 * match_rate:.1f}% find one; {then}")


def every_row_has_a_partner(column: str, other: str) -> Check:
    return Check("join keys fit", "holds", f"Every {spoken(column)} finds its row in {spoken(other)}")


def dates_decided(act: str) -> Check:
    return Check("dates decided", "caution", act, "choose which is right in Tables")


def dropped_words(dropped: Dropped) -> str:
    """4,694 fail: fee net is more than 20."""
    verb = dropped.verb if dropped.rows != 1 else "has" if dropped.verb == "have" else f"{dropped.verb}s"
    between = {"fail": ": ", "come": " behind the first "}.get(dropped.verb, " ")
    return f"{written(dropped.rows)} {verb}{between}{dropped.what}"


def rows_went_wrong(rows: StepRows, *, doubled: bool) -> Check:
    sentence = "A join doubled rows" if doubled else "A step lost rows that no condition left out"
    return Check("rows accounted", "stop", sentence, f"{written(rows.rows_in)} rows in, {written(rows.rows_out)} out")


def join_left_out(rows: int, dropped: Sequence[Dropped]) -> Check:
    why = "; ".join(dropped_words(d) for d in dropped)
    return Check("rows accounted", "caution", f"A join left out {plural(rows, 'row')} without a partner", why)


def joins_are_sound(joins: int) -> Check:
    what = "The join neither" if joins == 1 else "The joins neither"
    return Check("rows accounted", "holds", f"{what} lost nor doubled rows")


def rows_under_several(column: str, rows: int, items: int) -> Check:
    sentence = f"A row counts under each of the items of its {spoken(column)}"
    detail = f"{plural(rows, 'row')} hold {plural(items, 'item')}, so that the groups are more than the rows together"
    return Check("rows accounted", "caution", sentence, detail)


# -- periods -------------------------------------------------------------------------------------

PERIODS_AS_LONG = Check("periods as long", "holds", "The periods compared are of the same length")


def period_is_not_over(name: str, gone: int, days: int) -> Check:
    detail = f"{gone} of {days} days; do not compare with a whole one"
    return Check("periods complete", "caution", f"{name or 'The period'} is not over", detail)


def periods_differ(short: int, long: int) -> Check:
    return Check(
        "periods as long",
        "caution",
        f"The periods compared are of different length: {plural(short, 'day')} and {plural(long, 'day')}",
        "compare averages a day, or spans of the same length",
    )


def ends_are_whole(unit: str) -> Check:
    return Check("periods whole", "holds", f"The first and the last {spoken(unit)} are whole")


def ends_are_parts(unit: str, begins: tuple[str, dt.date] | None, ends: tuple[str, dt.date] | None) -> Check:
    said = [f"{begins[0]} begins on {day_words(begins[1])}"] if begins else []
    said += [f"{ends[0]} goes up to {day_words(ends[1])}"] if ends else []
    # A month or a year can be named to be left out.
    part = ends or begins
    cure = f"without {part[0]}" if part is not None and unit in ("month", "year") else ""
    detail = f"do not compare with a whole {spoken(unit)}"
    return Check("periods whole", "caution", f"{' and '.join(said)} only", detail, cure)


def parts_unequally_often(part: str, first: dt.date, last: dt.date) -> Check:
    return Check(
        "periods whole",
        "caution",
        f"The data go from {day_words(first)} to {day_words(last)}: not every {spoken(part)} comes equally often",
        "compare averages, or keep whole years",
    )


# -- groups --------------------------------------------------------------------------------------

MEANS_ARE_USUAL = Check("means are usual", "holds", "Means lie near their medians")
GROUPS_LARGE_ENOUGH = Check("groups large enough", "holds", f"Every group has at least {FEW_VALUES} rows")


def groups_add_up(whole: str) -> Check:
    return Check("groups add up", "holds", f"The groups add up to the whole, {whole}")


def some_groups_are_shown(shown: int, groups: int, name: str, whole: str, total: str, share: float | None) -> Check:
    part = "" if share is None else f", {100 * share:.0f}% of it"
    detail = f"{spoken(name)} of all is {whole}; those shown add up to {total}{part}"
    return Check("groups add up", "holds", f"{written(shown)} of {written(groups)} groups are shown", detail)


def some_are_in_several_groups(name: str, total: str, whole: str) -> Check:
    sentence = f"{spoken(name)} of the groups add up to {total}, but there are {whole} in all"
    return Check("groups add up", "caution", sentence, "some are in several groups")


def groups_do_not_add_up(total: str, whole: str) -> Check:
    sentence = f"The groups add up to {total}, the whole is {whole}; do not use this answer"
    return Check("groups add up", "stop", sentence)


def missing_values(name: str, missing: int, share: float, of: str) -> Check:
    """Of a column that is missing on so many rows, which are that share of all."""
    sentence = f"{plural(missing, 'row')} lack {spoken(name)}"
    if share >= 0.01:
        sentence = f"{spoken(name)} is missing on {100 * share:.0f}% of {of}"
    weight: Weight = "caution" if share >= 0.05 else "holds"
    return Check("missing values", weight, sentence, f"{plural(missing, 'missing value')} left out")


def undefined(name: str, rows: int) -> Check:
    return Check(
        "divisions by zero",
        "caution",
        f"{spoken(name)} has no value on {plural(rows, 'row')}",
        "divided by zero, or a root or logarithm that does not exist; left missing",
    )


def mean_is_pulled(name: str, group: str, mean: str, median: str, others: int) -> Check:
    where = f" of {group}" if group else ""
    more = f"; {plural(others, 'other group')} likewise" if others else ""
    sentence = f"{spoken(name)}{where} is pulled by extremes: {mean}, while the median is {median}"
    return Check("means are usual", "caution", sentence, f"half lie below the median{more}", "median instead")


def of_few_rows(rows: int) -> Check:
    return Check("groups large enough", "caution", f"This is of {plural(rows, 'row')} only")


def small_groups(few: int, groups: int, fewest: Sequence[tuple[str, int]]) -> Check:
    names = ", ".join(f"{name} ({size})" for name, size in fewest) + ("…" if few > len(fewest) else "")
    have = "has" if few == 1 else "have"
    sentence = f"{plural(few, 'group')} of {written(groups)} {have} fewer than {FEW_VALUES} rows"
    return Check("groups large enough", "caution", sentence, names)


def tie_at_the_cut(rows: int) -> Check:
    if not rows:
        return Check("ties at the cut", "holds", "No row left out equals the last one shown")
    sentence = f"{plural(rows, 'more row')} {'equals' if rows == 1 else 'equal'} the last one shown"
    return Check("ties at the cut", "caution", sentence, "which of them is shown follows the other columns")


def emptied_by(what: str) -> Check:
    return Check("result not empty", "caution", "No rows are left", f"emptied by: {what}")


def too_many_groups(groups: int) -> Check:
    sentence = f"{written(groups)} groups are more than anyone reads"
    return Check("groups to look at", "caution", sentence, "ask for the top 20 or group more coarsely", "top 20")


# -- two workings --------------------------------------------------------------------------------

BOTH_AGREE = Check("worked twice", "holds", "Computed twice, both ways agree")
SECOND_FOLLOWS = Check("worked twice", "caution", "The second working follows")


def workings_disagree(detail: str) -> Check:
    return Check("worked twice", "stop", "The two workings disagree; do not use this answer", detail)


def worked_once(why: str) -> Check:
    return Check("worked twice", "caution", "Worked once only", why)


def join_would_double(detail: str) -> Check:
    return Check("worked twice", "stop", _JOIN_DOUBLES, detail)
