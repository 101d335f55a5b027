"""The script of a look: for each plan that something was found by its own script, and the test that it was told by."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from gumption.core.plan.steps import Plan
from gumption.core.study.look import GroupsProbe, Probe, Remark, SeriesProbe, TieProbe
from gumption.core.study.periods import SEASONS

_SHOWN = 3
_LISTED = "print(answer.to_string(index=False))"


def look_code(remarks: Sequence[Remark], python: str, script: Callable[[Plan], str]) -> str:
    """One script after the other, each under what was found by it; the plan's own where nothing was."""
    told: dict[int, tuple[Probe, list[str]]] = {}
    for remark in remarks:
        if remark.probe is not None:
            told.setdefault(id(remark.probe), (remark.probe, []))[1].append(remark.sentence)
    parts = []
    for probe, sentences in told.values():
        said = "\n".join(f"# {' '.join(sentence.split())}" for sentence in sentences)
        worked, test = script(probe.plan).rstrip(), _test(probe)
        if isinstance(probe, (SeriesProbe, TieProbe)):
            # The test says it, and the rows are many.
            worked = worked.removesuffix(_LISTED).rstrip()
        parts.append(f"{said}\n{worked}\n{test}".rstrip())
    return "\n\n\n".join(parts) + "\n" if parts else python


def _test(probe: Probe) -> str:
    """What is worked of a plan's rows; nothing where they say by themselves what was found."""
    match probe:
        case SeriesProbe():
            return _courses(probe)
        case GroupsProbe():
            return _groups(probe)
        case TieProbe():
            return _TIED
        case _:
            return ""


def _courses(probe: SeriesProbe) -> str:
    """The periods that lie farthest from a line and a season, fitted robustly; a kind is held against what all of them did."""
    size = len(probe.figures)
    figures = [(place - size, f.kind == "mean") for place, f in enumerate(probe.figures) if not f.hidden]
    kinds = probe.kind is not None
    of = "answer.iloc[:, 1].astype(str)" if kinds else "'all'"
    plain = """
        y = figure[kind].to_numpy()"""
    beside = """
        beside = whole - whole.mean() if averaged else (whole / whole.mean()).clip(lower=0.05)
        y = (figure[kind] - beside if averaged else figure[kind] / beside).to_numpy()"""
    return f"""
import numpy as np
import statsmodels.api as sm

answer['of'], period, season = {of}, answer.columns[0], {SEASONS[probe.step]}
rows = answer.pivot_table(index=period, columns='of', values=answer.columns[{-size - 1}], aggfunc='sum').fillna(0)
off = []
for place, averaged in {figures}:
    name = answer.columns[place - 1]
    figure = answer.pivot_table(index=period, columns='of', values=name).astype(float)
    figure = figure.fillna(figure.median()) if averaged else figure.fillna(0)
    whole = (figure * rows).sum(axis=1) / rows.sum(axis=1) if averaged else figure.sum(axis=1)
    for kind in figure:{beside if kinds else plain}
        if len(y) < 12 or not np.ptp(y):
            continue
        at, terms = np.arange(len(y)), season if len(y) >= {3 if kinds else 2} * season else 1
        design = np.column_stack([np.ones(len(y)), at, *(at % season == p for p in range(terms - 1))])
        fit = sm.RLM(y, design, M=sm.robust.norms.TukeyBiweight()).fit()
        # As many rows as there are vary by chance; so does what they come to.
        each = (answer[answer.columns[place]] ** 2).mean() ** 0.5 if averaged else figure[kind].sum() / rows[kind].sum()
        count = rows[kind].clip(lower=1).to_numpy()
        chance = each / np.sqrt(count) if averaged else abs(each) * np.sqrt(count.mean())
        far = fit.resid / np.maximum(fit.scale, chance)
        odd = int(np.abs(far).argmax())
        off.append((abs(far[odd]), kind, name, figure.index[odd], figure[kind].iloc[odd]))
for row in sorted(off, key=lambda row: -row[0])[:{_SHOWN}]:
    print('{{:.1f}} deviations off: {{}}, {{}} in {{:%Y-%m-%d}}: {{:,.2f}}'.format(*row))"""


def _groups(probe: GroupsProbe) -> str:
    """Whether the averages differ by kind, by how many values each has and how they vary."""
    if not probe.measures:
        return ""
    return f"""
from statsmodels.stats.oneway import anova_generic

for place in range({len(probe.measures)}):
    known = answer.iloc[:, [2 + 3 * place, 3 + 3 * place, 4 + 3 * place]].astype(float).dropna()
    known = known[(known.iloc[:, 0] > 1) & (known.iloc[:, 2] > 0)]
    if len(known) > 1:
        n, mean, deviation = (known.iloc[:, i] for i in range(3))
        print(mean.name, anova_generic(mean, deviation ** 2, n, use_var='unequal').pvalue)"""


_TIED = """
import numpy as np
from scipy import stats

pairs = answer.dropna()
table = pairs.pivot_table(index=pairs.columns[0], columns=pairs.columns[1], values=pairs.columns[2], aggfunc='sum').fillna(0)
found = stats.chi2_contingency(table, correction=False)
print('chi-squared', found.pvalue, 'V', np.sqrt(found.statistic / table.to_numpy().sum() / (min(table.shape) - 1)))"""
