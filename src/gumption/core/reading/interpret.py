"""From a chain of links to a frame: word order and small words say what belongs to what."""

from __future__ import annotations

from dataclasses import dataclass, field

from gumption.core.model.types import Role, Type
from gumption.core.reading.frame import Frame, GroupKey
from gumption.core.reading.passes.base import NotUnderstood, link_text
from gumption.core.reading.passes.when import When


@dataclass
class Interpretation:
    """A frame, how each link was used in it, and what counts against it."""

    frame: Frame
    roles: dict[int, str] = field(default_factory=dict)
    """What each link, by its place in the chain, became: measure, column, value, time, operation."""
    unused: list[int] = field(default_factory=list)
    penalty: float = 0.0


class Interpreter(When):
    """Reads one chain from left to right, in passes: conditions first, then order, groups, measures, and the rest."""

    def interpret(self) -> Interpretation:
        self._subject()
        self._comparisons()
        self._values()
        self._missing_and_negated()
        self._groups()
        self._order()
        self._measures()
        self._remaining()
        self._times()
        self._finish()
        unused = [i for i in range(len(self.links)) if i not in self.used]
        return Interpretation(self.draft.frozen(), self.used, unused, self.penalty)

    def _finish(self) -> None:
        draft = self.draft
        if draft.groups and not draft.measures and (draft.windows or (draft.order and draft.order.measure is not None)):
            self._count_subject()
        for at, link in enumerate(self.links):
            following = self._link(at + 1)
            if (
                self._is_op(at, "group")
                and at not in self.used
                and following is not None
                and self._numeric(following.column)
            ):
                words = f"“{link_text(self.tokens, link)} {link_text(self.tokens, following)}”"
                ratio = self.tokens[link.start].lower == "per"
                why = (
                    "asks for a ratio, which cannot be read yet" if ratio else "would group by a measure of many values"
                )
                raise NotUnderstood(f"{words} {why}")
        self._drop_own_key()
        draft.shown = [key for key in draft.shown if key not in {m.column for m in draft.measures}]
        if self._asks_for_values():
            draft.groups.append(GroupKey(draft.shown.pop()))
        grouped = any(self._is_op(i, "group") and i in self.used for i in range(len(self.links)))
        if grouped and not draft.measures:
            # "X by Y" wants something worked out for each Y; without it the words were likely read amiss.
            self.penalty += 0.9
        if draft.windows and not draft.groups and not self.context:
            raise NotUnderstood("a share or a change needs to know for each of what")
        if draft.having and not draft.groups:
            if draft.subject is None:
                raise NotUnderstood("a condition on a number needs to know for each of what")
            self._group_by_table(draft.subject)
        if not (draft.measures or draft.groups or draft.shown or draft.conditions or draft.order or draft.subject):
            raise NotUnderstood("nothing in it names a table, a column or a value")
        if draft.order and draft.order.measure is not None and not draft.measures and not self.context:
            draft.order = None

    def _drop_own_key(self) -> None:
        """`days lost per absence` of a table with one row an absence: each row is a group already."""
        measured = {m.column.table for m in self.draft.measures if m.column}
        if len(self.draft.groups) != 1 or self.draft.order or self.draft.having or self.draft.windows:
            return
        key = self.draft.groups[0].column
        column, rows = self._column(key), self.catalogue.table(key.table).rows
        if key.table in measured and column.distinct == rows and column.role is Role.IDENTIFIER:
            self.draft.groups = []

    def _asks_for_values(self) -> bool:
        """`list the warehouses`, `what genres are there`: the different values of one column, not the rows they stand on."""
        draft = self.draft
        if len(draft.shown) != 1 or draft.subject or draft.measures or draft.groups or draft.order or draft.presence:
            return False
        column = self._column(draft.shown[0])
        return (
            column.type in (Type.TEXT, Type.BOOLEAN)
            and (column.role.is_category or column.role is Role.LINK)
            and not any(c.column.table == draft.shown[0].table and self._is_naming(c.column) for c in draft.conditions)
        )
