"""A house's own words as CSV: a line each, so that they can be kept, written elsewhere, and taken up again."""

from __future__ import annotations

import csv
import io
from collections.abc import Sequence

from pydantic import ValidationError

from gumption.core.model.term import Term
from gumption.core.present.cells import harmless
from gumption.server.problems import ApiProblem

_COLUMNS = ("words", "table", "column", "value", "text", "note")
_BETWEEN = "; "


def terms_as_csv(terms: Sequence[Term]) -> str:
    """All terms; a term's words are parted by semicolons."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(_COLUMNS)
    for term in terms:
        cells = (_BETWEEN.join(term.words), term.table, term.column, term.value, term.text, term.note)
        writer.writerow([harmless(cell) for cell in cells])
    return out.getvalue()


def _as_it_was(cell: str) -> str:
    """A cell without the mark that keeps spreadsheets from working it out."""
    return cell[1:] if cell and harmless(cell[1:]) == cell else cell


def terms_of_csv(text: str) -> list[Term]:
    """The terms of a file. Raises ApiProblem that says which line is none."""
    reader = csv.DictReader(io.StringIO(text))
    if "words" not in (reader.fieldnames or ()):
        wanted = ", ".join(_COLUMNS)
        raise ApiProblem(422, "This is no list of words.", f"Its columns are {wanted}.", accepted=_COLUMNS)
    terms = []
    for number, line in enumerate(reader, start=2):
        told = {name: _as_it_was((line.get(name) or "").strip()) for name in _COLUMNS}
        words = [word.strip() for word in told.pop("words").split(";") if word.strip()]
        try:
            terms.append(Term.model_validate({**told, "words": words}))
        except ValidationError as error:
            said = str(error.errors()[0]["msg"])
            where = f"line {number}"
            raise ApiProblem(
                422, f"Line {number} is no word: {said}.", "Mend it and send the file again.", where=where
            ) from error
    return terms
