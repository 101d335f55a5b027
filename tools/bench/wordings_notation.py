"""The notation in which the bank of wordings writes meanings: text to a small syntax tree.

Names with arguments, lists, conditions and arithmetic with the usual precedence, and loose words between them.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass

_TOKEN = re.compile(
    r"""\s*(?:(?P<slot>\{[a-z_0-9]+\})|"(?P<text>[^"]*)"|(?P<number>\d+(?:\.\d+)?)|(?P<word>[A-Za-z_][A-Za-z_0-9]*)"""
    r"""|(?P<op>>=|<=|!=|\.\.|[=<>+\-*/(),:\[\]%.;']))"""
)
_COMPARISONS = ("=", "!=", "<", "<=", ">", ">=")


class NotWritten(ValueError):
    """The text is not of the notation, or says more than can be said here."""


@dataclass(frozen=True)
class Slot:
    name: str


@dataclass(frozen=True)
class Word:
    """Loose words, joined by blanks."""

    text: str


@dataclass(frozen=True)
class Text:
    """Words between quotation marks."""

    text: str


@dataclass(frozen=True)
class Figure:
    value: float


@dataclass(frozen=True)
class Items:
    items: tuple[Node, ...]


@dataclass(frozen=True)
class Call:
    name: str
    arguments: tuple[Node, ...] = ()
    named: tuple[tuple[str, Node], ...] = ()
    raw: str = ""
    """What stands between the brackets, as written."""

    def get(self, name: str) -> Node | None:
        return dict(self.named).get(name)


@dataclass(frozen=True)
class Infix:
    op: str
    left: Node
    right: Node


@dataclass(frozen=True)
class Postfix:
    """A node with a word after it: desc, asc, missing, present."""

    op: str
    of: Node


Node = Slot | Word | Text | Figure | Items | Call | Infix | Postfix


_SHORT = (
    (re.compile(r"(\{\w+\}|\w+) between (\{\w+\}|[\d.]+) and (\{\w+\}|[\d.]+)"), r"\1 >= \2 and \1 <= \3"),
    (re.compile(r"limit=(\d+) offset (\d+)"), r"limit=\1, skip=\2"),
    (re.compile(r"((?:\d+ [A-Z][a-z]+|start of|\{month\}) \{year2?\})(?! -)"), r'"\1"'),
    (re.compile(r"month of year\("), "month_of_year("),
)
"""What the bank writes in words, as the notation has it elsewhere."""


def parsed(text: str) -> Node:
    """The syntax tree of a meaning. Raises NotWritten."""
    for short, long in _SHORT:
        text = short.sub(long, text)
    parser = _Parser(text)
    node = parser.expression(0)
    if parser.at < len(parser.tokens):
        raise NotWritten(f"{text!r}: nothing fits “{parser.tokens[parser.at][1]}”")
    return node


def inside(node: object) -> Iterator[Node]:
    """A node and all that stands in it."""
    if isinstance(node, tuple):
        for item in node:
            yield from inside(item)
    elif isinstance(node, (Slot, Word, Text, Figure, Items, Call, Infix, Postfix)):
        yield node
        for name in node.__dataclass_fields__:
            yield from inside(getattr(node, name))


class _Parser:
    def __init__(self, text: str) -> None:
        self.text = text
        self.tokens: list[tuple[str, str, int, int]] = []
        place = 0
        while text[place:].strip():
            found = _TOKEN.match(text, place)
            if found is None:
                raise NotWritten(f"{text!r}: nothing fits “{text[place:]}”")
            kind = str(found.lastgroup)
            self.tokens.append((kind, found.group(kind), found.start(kind), found.end()))
            place = found.end()
        self.at = 0

    def peek(self) -> tuple[str, str]:
        return self.tokens[self.at][:2] if self.at < len(self.tokens) else ("end", "")

    def take(self, text: str) -> bool:
        if self.peek()[1] == text and self.peek()[0] in ("op", "word"):
            self.at += 1
            return True
        return False

    def need(self, text: str) -> None:
        if not self.take(text):
            raise NotWritten(f"{self.text!r}: “{text}” is missing before “{self.peek()[1]}”")

    def expression(self, level: int) -> Node:
        """One of: or (0), and (1), not (2), comparisons (3), sums (4), products (5)."""
        if level == 2 and self.take("not"):
            return Postfix("not", self.expression(2))
        if level == 6:
            return self.postfixed()
        left = self.expression(level + 1)
        while True:
            kind, text = self.peek()
            if (level == 0 and kind == "word" and text == "or") or (level == 1 and kind == "word" and text == "and"):
                self.at += 1
                left = Infix(text, left, self.expression(level + 1))
            elif level == 3 and text in _COMPARISONS and kind == "op":
                self.at += 1
                left = Infix(text, left, self.expression(4))
            elif level == 3 and kind == "word" and text in ("in", "contains", "starts", "ends", "among"):
                self.at += 1
                self.take("with")
                if text == "among":
                    self.need("(")
                    left = Infix("among", left, self.expression(0))
                    self.need(")")
                else:
                    left = Infix(text, left, self.expression(4))
            elif (
                level == 3
                and kind == "word"
                and text == "not"
                and self.tokens[self.at + 1 : self.at + 2]
                and self.tokens[self.at + 1][1] in ("in", "among")
            ):
                self.at += 2
                op = self.tokens[self.at - 1][1]
                left = Postfix("not", Infix(op, left, self.expression(4)))
            elif (level == 4 and kind == "op" and text in "+-") or (level == 5 and kind == "op" and text in "*/"):
                self.at += 1
                left = Infix(text, left, self.expression(level + 1))
            else:
                return left

    def postfixed(self) -> Node:
        node = self.primary()
        while self.peek()[0] == "word" and self.peek()[1] in ("desc", "asc", "missing", "present"):
            node = Postfix(self.peek()[1], node)
            self.at += 1
        return node

    def primary(self) -> Node:
        kind, text = self.peek()
        self.at += 1
        match kind:
            case "slot":
                return Slot(text[1:-1])
            case "text":
                return Text(text)
            case "number":
                return Figure(float(text))
            case "word":
                if self.peek()[1] == "(" and self.peek()[0] == "op":
                    return self.call(text)
                words = [text]
                while self.peek()[0] == "word" and self.peek()[1] not in (
                    "and", "or", "in", "desc", "asc", "missing", "present", "contains", "starts", "ends", "among", "not",
                ):  # fmt: skip
                    words.append(self.peek()[1])
                    self.at += 1
                if words[-1] == "of" and self.peek()[0] == "slot":
                    words.append(self.peek()[1])
                    self.at += 1
                return Word(" ".join(words))
            case "op" if text == "(" or text == "[":
                closing = ")" if text == "(" else "]"
                items = [self.expression(0)]
                while self.take(","):
                    items.append(self.expression(0))
                self.need(closing)
                return items[0] if len(items) == 1 and text == "(" else Items(tuple(items))
            case "op" if text == "-":
                inner = self.primary()
                return Figure(-inner.value) if isinstance(inner, Figure) else Infix("-", Figure(0), inner)
            case _:
                raise NotWritten(f"{self.text!r}: nothing fits “{text}”")

    def call(self, name: str) -> Node:
        begun = self.tokens[self.at][3]
        self.at += 1
        if name in ("span", "Decline", "edit", "About"):
            depth = 1
            while depth and self.at < len(self.tokens):
                depth += {"(": 1, ")": -1}.get(self.tokens[self.at][1], 0)
                self.at += 1
            return Call(name, raw=self.text[begun : self.tokens[self.at - 1][2]].strip())
        arguments: list[Node] = []
        named: list[tuple[str, Node]] = []
        while not self.take(")"):
            following = self.tokens[self.at + 1][1] if self.at + 1 < len(self.tokens) else ""
            if self.peek()[0] == "word" and following == "=":
                key = self.peek()[1]
                self.at += 2
                named.append((key, self.expression(0)))
            else:
                arguments.append(self.expression(0))
            if not self.take(",") and self.peek()[1] != ")":
                raise NotWritten(f"{self.text!r}: nothing fits “{self.peek()[1]}”")
        call = Call(name, tuple(arguments), tuple(named))
        if name == "Percentile" and self.take("("):
            self.at -= 1
            inner = self.call("Percentile of")
            assert isinstance(inner, Call)
            return Call(name, (*call.arguments, *inner.arguments), inner.named)
        return call
