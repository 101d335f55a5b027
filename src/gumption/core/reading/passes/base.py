"""What every pass has at hand: the links, the frame being filled, and ways of looking around."""

from __future__ import annotations

from gumption.core.model.catalogue import Catalogue, Column
from gumption.core.model.types import Role
from gumption.core.reading.frame import Draft, Frame, tables_of_frame
from gumption.core.reading.lexicon import Operation, related
from gumption.core.reading.links import Link
from gumption.core.reading.tokens import Token, stem
from gumption.core.reading.vocabulary import ColumnKey, Vocabulary, name_parts


class NotUnderstood(Exception):
    """This chain of links makes no frame; says why, for a person."""


def link_text(tokens: list[Token], link: Link) -> str:
    """The words of a link as they were typed."""
    return " ".join(t.text for t in tokens[link.start : link.end])


class Looking:
    """What every pass has at hand: the links, the frame being filled, and ways of looking around."""

    def __init__(
        self,
        links: tuple[Link, ...],
        tokens: list[Token],
        vocabulary: Vocabulary,
        question: str,
        earlier: Frame | None = None,
    ) -> None:
        self.links, self.tokens, self.vocabulary, self.question = links, tokens, vocabulary, question
        self.earlier = earlier
        self.context = tables_of_frame(earlier)
        self.catalogue: Catalogue = vocabulary.catalogue
        self.draft = Draft()
        self.used: dict[int, str] = {}
        self.penalty = 0.0

    def _column(self, key: ColumnKey) -> Column:
        return self.catalogue.table(key.table).column(key.column)

    def _link(self, place: int) -> Link | None:
        return self.links[place] if 0 <= place < len(self.links) else None

    def _is_op(self, place: int, *kinds: str) -> bool:
        link = self._link(place)
        return link is not None and link.operation is not None and link.operation.kind in kinds

    def _operation(self, place: int) -> Operation:
        operation = self.links[place].operation
        assert operation is not None
        return operation

    def _free_column(self, place: int) -> ColumnKey | None:
        link = self._link(place)
        return link.column if link is not None and link.kind == "column" and place not in self.used else None

    def _numeric(self, key: ColumnKey | None) -> bool:
        return key is not None and self._column(key).type.is_number

    def _word_before(self, place: int) -> str:
        start = self.links[place].start
        return self.tokens[start - 1].lower if start else ""

    def _is_naming(self, key: ColumnKey) -> bool:
        naming = self.catalogue.table(key.table).naming_column
        return naming is not None and naming.name == key.column

    def _is_code(self, key: ColumnKey) -> bool:
        return self._column(key).role in (Role.CODE, Role.IDENTIFIER)

    def _points_at(self, table: str, other: str) -> bool:
        return any(r.other == other for r in self.catalogue.parents(table))

    def _mentioned_tables(self) -> list[str]:
        """Tables that the question is about, the measured and counted first."""
        found = [m.column.table if m.column else m.table for m in self.draft.measures]
        found += [
            link.column.table
            for link in self.links
            if link.kind == "column" and link.column and self._column(link.column).is_measure
        ]
        found += [link.table for link in self.links if link.kind == "table"]
        found += [self.draft.subject]
        found += [link.column.table for link in self.links if link.column]
        found += self.context
        if len(self.catalogue.tables) == 1:
            found.append(self.catalogue.tables[0].name)
        return list(dict.fromkeys(t for t in found if t))

    def _hinted(self, hint: tuple[str, ...]) -> ColumnKey | None:
        tables = [self.draft.subject] if self.draft.subject else [t.name for t in self.catalogue.tables]
        for concept in hint:
            for name in tables:
                for column in self.catalogue.table(name).columns:
                    parts = [stem(p) for p in name_parts(column.name)]
                    if (concept == "date" and column.type.is_time) or (
                        concept != "date" and column.type.is_number and any(related(stem(concept), p) for p in parts)
                    ):
                        return ColumnKey(name, column.name)
        return None

    def _only_measure(self) -> ColumnKey | None:
        if self.draft.subject is None:
            return None
        measures = [c for c in self.catalogue.table(self.draft.subject).columns if c.is_measure]
        return ColumnKey(self.draft.subject, measures[0].name) if len(measures) == 1 else None

    def _use(self, role: str, *places: int) -> None:
        for place in places:
            self.used.setdefault(place, role)

    def _use_column(self, key: ColumnKey) -> None:
        for place, link in enumerate(self.links):
            if link.column == key and link.kind == "column":
                self._use("measure", place)
