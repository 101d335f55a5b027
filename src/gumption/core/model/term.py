"""What a house's own words mean: other names for what is in its tables, and words said by other words."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field


class Term(BaseModel):
    """Words, and what they mean: the most exact of what is given. Where nothing is, the words are left out."""

    model_config = ConfigDict(frozen=True)

    words: tuple[Annotated[str, Field(max_length=100)], ...] = Field(min_length=1, max_length=20)
    """All that it is called, each a word or a few."""
    table: str = Field(default="", max_length=200)
    column: str = Field(default="", max_length=200)
    """A column of that table."""
    value: str = Field(default="", max_length=500)
    """A value of that column, as it is written."""
    text: str = Field(default="", max_length=500)
    """Other words that say it, such as fee minus cost, or wait over 30 minutes."""
    note: str = Field(default="", max_length=500)
    """What people should know of it."""
    id: int = 0

    @property
    def meaning(self) -> str:
        """What it means, as it is shown beside the words."""
        if self.text:
            return self.text
        if not self.table:
            return "left out"
        return ".".join(filter(None, (self.table, self.column))) + (f" = {self.value}" if self.value else "")
