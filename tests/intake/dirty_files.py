"""Small files as analysts have them, each with what must come out: rows, types and a control sum.

A case is a file's bytes and, for each of its tables, the rows, the types by column, sums of columns of numbers, and
words that one of the notes must hold. Column names that do not matter are left out of the types.
"""

from __future__ import annotations

import datetime as dt
import gzip
import io
import json
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

import pyarrow as pa
import pyarrow.parquet as pq
import xlsxwriter

Sums = dict[str, float]


@dataclass(frozen=True)
class Want:
    """What one table must be."""

    rows: int
    types: dict[str, str]
    sums: Sums = field(default_factory=dict)
    values: dict[str, list[Any]] = field(default_factory=dict)


@dataclass(frozen=True)
class Case:
    name: str
    file: str
    content: bytes
    tables: tuple[Want, ...]
    note: str = ""
    units: dict[str, str] = field(default_factory=dict)


def want(rows: int, types: str, sums: Sums | None = None, **values: list[Any]) -> Want:
    """`types` as "name:type name:type"; blanks in names are written as ·."""
    named = dict(pair.rsplit(":", 1) for pair in types.split())
    totals = {n.replace("·", " "): total for n, total in (sums or {}).items()}
    return Want(rows, {n.replace("·", " "): t for n, t in named.items()}, totals, values)


def text(name: str, content: str, *tables: Want, file: str = "", encoding: str = "utf-8", **more: Any) -> Case:
    return Case(name, file or f"{name.replace(' ', '_')}.csv", content.encode(encoding), tables, **more)


VISITS = "visit,day,fee\n" + "".join(f"V{i},2024-01-{i:02d},{i}.50\n" for i in range(1, 13))
VISITS_WANT = want(12, "visit:text day:date fee:decimal", {"fee": 84})


def _encodings() -> Iterator[Case]:
    body = "Ort;Name;Betrag\nKöln;Jürgen Groß;12,50\nZürich;Zoë Café;7,25\nMálaga;Señor Núñez;100,00\n"
    wanted = want(3, "Ort:text Name:text Betrag:decimal", {"Betrag": 119.75}, Ort=["Köln", "Zürich", "Málaga"])
    for label, encoding in (
        ("utf-8", "utf-8"),
        ("utf-8 with a mark", "utf-8-sig"),
        ("utf-16", "utf-16"),
        ("utf-16 little end first without a mark", "utf-16-le"),
        ("utf-16 big end first without a mark", "utf-16-be"),
        ("windows-1252", "cp1252"),
        ("latin-1", "latin-1"),
        ("mac roman", "mac_roman"),
    ):
        yield text(label, body, wanted, encoding=encoding)
    yield text(
        "pounds in windows-1252",
        "item,price\nlead,£4.50\nbowl,£12.00\n",
        want(2, "item:text price:decimal", {"price": 16.5}),
        encoding="cp1252",
        units={"price": "GBP"},
    )
    yield Case(
        "a few broken bytes in utf-8",
        "broken.csv",
        "naam,n\nCafé,1\nÉlan,2\nZoë,3\nRené,4\nÅse,5\nÆ,6\n".encode() + b"B\xffd,7\n",
        (want(7, "naam:text n:integer", {"n": 28}),),
        "no letter",
    )
    yield text("letters of other lands", "город,n\nМосква,1\nКазань,2\n", want(2, "город:text n:integer", {"n": 3}))


def _delimiters() -> Iterator[Case]:
    rows = [("item", "day", "amount"), *((f"thing {i}", f"2024-02-{i:02d}", f"{i}.25") for i in range(1, 9))]
    wanted = want(8, "item:text day:date amount:decimal", {"amount": 38})
    for label, mark in (("commas", ","), ("semicolons", ";"), ("tabs", "\t"), ("bars", "|"), ("carets", "^")):
        yield text(label, "\n".join(mark.join(r) for r in rows), wanted)
    yield text(
        "semicolons with decimal commas",
        "a;b;c\n" + "".join(f"x{i};{i},5;{i},25\n" for i in range(1, 9)),
        want(8, "a:text b:decimal c:decimal", {"b": 40, "c": 38}),
    )
    yield text(
        "two columns of decimal commas",
        "ort;wert\n" + "".join(f"o{i};{i},5\n" for i in range(1, 9)),
        want(8, "ort:text wert:decimal", {"wert": 40}),
    )
    yield text(
        "columns that line up",
        "name        town       amount\n"
        + "".join(
            f"{'Person ' + str(i):<12}{'Alder' if i % 2 else 'New Birch':<11}{i * 1.5:>6.2f}\n" for i in range(1, 9)
        ),
        want(8, "name:text town:text amount:decimal", {"amount": 54}),
        file="aligned.txt",
    )
    yield text(
        "ruled columns that line up",
        "name       n\n---------- --\nAda Bell    1\nBo          2\nCy Dent     3\n",
        want(3, "name:text n:integer", {"n": 6}),
        file="ruled.txt",
    )
    yield text(
        "a table between bars",
        "| name | n |\n|------|---|\n| Ada  | 1 |\n| Bo   | 2 |\n",
        want(2, "name:text n:integer", {"n": 3}),
        file="bars.md",
    )
    yield text(
        "a first line that names the delimiter",
        "sep=;\na;b\n1;2\n3;4\n",
        want(2, "a:integer b:integer", {"b": 6}),
        note="names the delimiter",
    )
    yield text("line ends of old machines", "a,b\r1,2\r3,4\r", want(2, "a:integer b:integer", {"b": 6}))
    yield text("mixed line ends", "a,b\r\n1,2\n3,4\r\n", want(2, "a:integer b:integer", {"b": 6}))
    yield text("a delimiter at every line's end", "a,b,\n1,2,\n3,4,\n5,6,\n", want(3, "a:integer b:integer", {"b": 12}))
    yield text(
        "blanks after commas", "a, b, c\n1, x, 2.5\n2, y, 3.5\n", want(2, "a:integer b:text c:decimal", {"c": 6})
    )
    yield text("one column", "amount\n1.5\n2.5\n4\n", want(3, "amount:decimal", {"amount": 8}))
    yield text(
        "numbers parted by single blanks",
        "x y z\n1 2 3\n4 5 6\n7 8 9\n",
        want(3, "x:integer y:integer z:integer", {"z": 18}),
        file="points.dat",
    )


def _quotes() -> Iterator[Case]:
    yield text(
        "quoted commas, quotes and line ends",
        'a,b,n\n"x, y","said ""no""",1\n"two\nlines",z,2\n',
        want(2, "a:text b:text n:integer", {"n": 3}, a=["x, y", "two\nlines"]),
    )
    yield text(
        "bare quotes inside a quoted cell",
        'a,b,n\n"the "big" one",x,1\n"plain",y,2\n',
        want(2, "a:text b:text n:integer", {"n": 3}, a=['the "big" one', "plain"]),
        note="quoting",
    )
    yield text(
        "inches", 'item,width,n\npipe 5" long,2,1\nbar,3,2\n', want(2, "item:text width:integer n:integer", {"n": 3})
    )
    yield text(
        "a quote that is never closed",
        'a,n\n"open,1\nb,2\nc,3\n',
        want(3, "a:text n:integer", {"n": 6}),
        note="quoting",
    )
    yield text(
        "backslashes before quotes",
        'a,n\n"say \\"hi\\" now",1\nb,2\n',
        want(2, "a:text n:integer", {"n": 3}, a=['say "hi" now', "b"]),
    )
    yield text("single quotes are letters", "a,n\n'x,1\no'hara,2\n", want(2, "a:text n:integer", {"n": 3}))
    yield text("every cell quoted", '"a","n"\n"x","1"\n"y","2"\n', want(2, "a:text n:integer", {"n": 3}))


def _ragged() -> Iterator[Case]:
    body = "".join(f"P{i},Town {i},{i}\n" for i in range(1, 20))
    yield text(
        "an unquoted comma in a name",
        f"id,town,n\n{body}P20,Bath, Avon,20\n",
        want(20, "id:text town:text n:integer", {"n": 210}),
        note="unquoted delimiter",
    )
    yield text(
        "unquoted thousands", f"id,town,n\n{body}P20,Bath,1,200\n", want(20, "id:text town:text n:integer", {"n": 1390})
    )
    yield text(
        "short lines",
        "a,b,c\n1,2,3\n4,5\n6,7,8\n",
        want(3, "a:integer b:integer c:integer", {"c": 11}),
        note="fewer cells",
    )
    yield text(
        "a header without the first name",
        "n,m\nr1,1,2\nr2,3,4\nr3,5,6\n",
        want(3, "n:integer m:integer", {"n": 9, "m": 12}),
        note="one name less",
    )
    yield text("empty rows between and below", "a,n\nx,1\n\ny,2\n,\n\n\n", want(2, "a:text n:integer", {"n": 3}))


def _layout() -> Iterator[Case]:
    rows = "".join(f"Clinic {i},{i * 10},{i}.5\n" for i in range(1, 9))
    wanted = want(8, "clinic:text visits:integer cost:decimal", {"visits": 360, "cost": 40})
    head = "clinic,visits,cost\n"
    yield text("a title above", f"Visits by clinic\n{head}{rows}", wanted, note="title line")
    yield text(
        "titles and a blank line above",
        f"Brackenfold Vets\nVisits by clinic,,\nMade on,3 May 2024,\n\n{head}{rows}",
        wanted,
    )
    yield text("labels with colons above", f"Report:,Visits,\nDate:,2024-05-03,\n{head}{rows}", wanted)
    yield text("blank lines above", f"\n\n{head}{rows}", wanted)
    yield text("comments above", f"# made by hand\n# twice\n{head}{rows}", wanted)
    yield text("notes below", f"{head}{rows}\nSource: the clinics\n* estimated\n", wanted, note="notes below")
    yield text("a note right below", f"{head}{rows}Generated on 2024-05-03\n", wanted)
    yield text(
        "no header",
        "".join(f"V{i},2024-01-{i:02d},{i}.5\n" for i in range(1, 10)),
        want(9, "column_1:text column_2:date column_3:decimal", {"column_3": 49.5}),
        note="no header",
    )
    yield text(
        "no header, words only",
        "".join(f"{'red' if i % 2 else 'blue'},{'big' if i % 3 else 'small'}\n" for i in range(12)),
        want(12, "column_1:text column_2:text"),
    )
    yield text(
        "words only under a header", "name,town\nAda,Alder\nBo,Birch\nCy,Cedar\n", want(3, "name:text town:text")
    )
    yield text(
        "a name that stands twice",
        "a,n,n\nx,1,2\ny,3,4\n",
        want(2, "a:text n:integer n_2:integer", {"n": 4, "n_2": 6}),
        note="repeats a name",
    )
    yield text(
        "a column without a name",
        "a,,n\nx,1,2\ny,3,4\n",
        want(2, "a:text column_2:integer n:integer", {"column_2": 4}),
        note="had no name",
    )
    yield text("an empty column", "a,,n\nx,,2\ny,,4\n", want(2, "a:text n:integer", {"n": 6}), note="empty column")
    yield text(
        "years as names",
        "region,2021,2022,2023\nNorth,1,2,3\nSouth,4,5,6\n",
        want(2, "region:text 2021:integer 2022:integer 2023:integer", {"2023": 9}),
    )
    yield text(
        "months as names",
        "line,Jan 2024,Feb 2024,Mar 2024\nfood,1,2,3\nrent,4,5,6\n",
        want(2, "line:text", {"Mar 2024": 9}),
    )
    yield text(
        "a header of two rows",
        ",,2023,,2024,\nregion,shop,plan,actual,plan,actual\nN,S1,1,2,3,4\nS,S2,5,6,7,8\n",
        want(2, "region:text shop:text", {"2023 plan": 6, "2024 actual": 12}),
        note="Two header rows",
    )
    yield text(
        "a header that goes on below",
        "region,sales,,costs,\n,Q1,Q2,Q1,Q2\nN,1,2,3,4\nS,5,6,7,8\n",
        want(2, "region:text", {"sales Q1": 6, "costs Q2": 12}),
        note="Two header rows",
    )
    yield text(
        "units under the header",
        "animal,weight,height\n,kg,cm\nRex,12.5,60\nTom,4.5,25\nIda,5,30\n",
        want(3, "animal:text weight:decimal height:integer", {"weight": 22, "height": 115}),
        note="units",
        units={"weight": "kg"},
    )
    yield text(
        "units in brackets under the header",
        "animal,weight,fee\n(name),(kg),(£)\nRex,12.5,60\nTom,4.5,25\n",
        want(2, "animal:text weight:decimal fee:integer", {"fee": 85}),
        units={"fee": "GBP"},
    )
    yield text(
        "headers repeated among the rows",
        f"{head}{rows}{head}Clinic 9,90,9.5\n",
        want(9, "clinic:text visits:integer cost:decimal", {"visits": 450}),
        note="header stands again",
    )
    yield text(
        "header names with blanks and line ends",
        '"Visit\ndate"," Fee  net "\n2024-01-01,2\n2024-01-02,3\n',
        want(2, "", {"Fee net": 5}),
    )
    yield text(
        "two tables in one file",
        "shop,n\nA,1\nB,2\n\nname,day,fee\nx,2024-01-01,1.5\ny,2024-01-02,2.5\n",
        want(2, "shop:text n:integer", {"n": 3}),
        want(2, "name:text day:date fee:decimal", {"fee": 4}),
        note="2 tables",
    )
    yield text(
        "a blank line inside one table",
        f"{head}{rows}\nClinic 9,90,9.5\n",
        want(9, "clinic:text visits:integer cost:decimal", {"visits": 450}),
    )


def _totals() -> Iterator[Case]:
    head = "region,shop,amount\n"
    yield text(
        "a total at the foot",
        f"{head}N,A,1\nN,B,2\nS,C,3\nTotal,,6\n",
        want(3, "region:text shop:text amount:integer", {"amount": 6}),
        note="Total",
    )
    yield text(
        "subtotals and a grand total",
        f"{head}N,A,1\nN,B,2\nN Total,,3\nS,C,3\nS,D,4\nS Total,,7\nGrand Total,,10\n",
        want(4, "region:text shop:text amount:integer", {"amount": 10}),
        note="totals",
    )
    yield text(
        "subtotals in the second column",
        f"{head}N,A,1\nN,B,2\nN,Subtotal,3\nS,C,3\nS,D,4\nS,Subtotal,7\n",
        want(4, "region:text", {"amount": 10}),
    )
    yield text(
        "a total without a word",
        "shop,day,amount\nA,2024-01-01,1.5\nB,2024-01-02,2.5\nC,2024-01-03,3\n,,7\n",
        want(3, "shop:text", {"amount": 7}),
    )
    yield text(
        "a sum in another tongue",
        "Ort;Anzahl\nKöln;3\nBonn;4\nUlm;5\nSumme;12\n",
        want(3, "Ort:text Anzahl:integer", {"Anzahl": 12}),
    )
    yield text(
        "a shop that is called Total",
        "shop,town,amount\nTotal,Alder,5\nAmple,Birch,7\nTotal,Cedar,9\nMore,Dale,4\n",
        want(4, "shop:text", {"amount": 25}),
    )
    yield text(
        "a total and an average",
        "shop,amount\nA,1\nB,2\nC,3\nTotal,6\nAverage,2\n",
        want(3, "shop:text amount:integer", {"amount": 6}),
    )
    yield text(
        "a total above a note",
        f"{head}N,A,1\nS,C,3\nTotal,,4\n\nSource: the shops\n",
        want(2, "region:text", {"amount": 4}),
    )
    yield text(
        "money in the total",
        'item,amount\na,"£1,000.00"\nb,£250.50\nTotal,"£1,250.50"\n',
        want(2, "item:text amount:decimal", {"amount": 1250.5}),
    )


def _numbers() -> Iterator[Case]:
    def column(label: str, cells: list[str], kind: str, total: float, **more: Any) -> Case:
        quoted = "\n".join(f'r{i},"{c}"' for i, c in enumerate(cells))
        return text(label, f"id,amount\n{quoted}\n", want(len(cells), f"amount:{kind}", {"amount": total}), **more)

    yield column("thousands with commas", ["1,204", "12,000", "3,456,789", "5"], "integer", 3469998)
    yield column("thousands with commas and cents", ["1,204.50", "12,000.25", "7.25"], "decimal", 13212)
    yield column("thousands with points", ["1.204,50", "12.000,25", "7,25"], "decimal", 13212)
    yield column("thousands with blanks", ["1 204,50", "12 000,25", "7,25"], "decimal", 13212)
    yield column("thousands with hard blanks", ["1\u00a0204", "12\u00a0000", "7"], "integer", 13211)
    yield column("thousands with narrow blanks", ["1\u202f204,5", "12\u202f000,5", "7"], "decimal", 13212)
    yield column("thousands with apostrophes", ["1'204.50", "12'000.25", "7.25"], "decimal", 13212)
    yield column("thousands of lakhs", ["12,34,567", "1,00,000", "5"], "integer", 1334572)
    yield column("pounds", ["£1,204.50", "£3.00", "£0.50"], "decimal", 1208, units={"amount": "GBP"})
    yield column("euros behind", ["1.204,50 €", "3,00 €", "0,50 €"], "decimal", 1208, units={"amount": "EUR"})
    yield column("dollars with brackets", ["$1,204.50", "($3.00)", "$0.50"], "decimal", 1202, units={"amount": "USD"})
    yield column(
        "currency codes in front", ["CHF 10.50", "CHF 20.00", "CHF 0.50"], "decimal", 31, units={"amount": "CHF"}
    )
    yield column(
        "currency codes behind", ["10.50 SEK", "20.00 SEK", "0.50 SEK"], "decimal", 31, units={"amount": "SEK"}
    )
    yield column("a minus before the sign", ["-£5.50", "£7.50", "£-1.00"], "decimal", 1)
    yield column("a minus behind", ["5.50-", "7.50", "1.00-"], "decimal", 1)
    yield column("brackets for minus", ["(5)", "7", "(1)"], "integer", 1)
    yield column("long minus signs", ["−5.5", "7.5", "−1"], "decimal", 1)
    yield column("plus signs", ["+5", "-7", "+1"], "integer", -1)
    yield column("per cent", ["12%", "7.5%", "0.5 %"], "decimal", 20, units={"amount": "%"})
    yield column("powers of ten", ["1.5e3", "2E-1", "3.0e+2"], "float", 1800.2)
    yield column("units behind", ["12.5 kg", "3 kg", "4.5kg"], "decimal", 20, units={"amount": "kg"})
    yield column("thousands and millions in letters", ["$1.5M", "$250K", "$2M"], "integer", 3750000)
    yield column("no nought before the point", [".5", ".25", "-.75"], "decimal", 0)
    yield column("whole numbers with a point", ["1.0", "2.0", "3.0"], "integer", 6)
    yield column("many digits behind the point", ["0.123456", "2.5", "3.25"], "float", 5.873456)
    yield text(
        "noughts that must stay",
        "code,n\n00123,1\n00456,2\n01000,3\n",
        want(3, "code:text n:integer", {"n": 6}, code=["00123", "00456", "01000"]),
        note="lose its nought",
    )
    yield text(
        "telephone numbers",
        "phone,n\n020 7946 0018,1\n0161 496 0000,2\n+44 1632 960000,3\n",
        want(3, "phone:text n:integer", {"n": 6}),
    )
    yield text(
        "codes of digits and letters",
        "room,n\n101,1\n102,2\n103,3\n12A,4\n104,5\n105,6\n106,7\n107,8\n108,9\n",
        want(9, "room:text n:integer", {"n": 45}),
    )
    yield text(
        "numbers too long to count",
        "card,n\n12345678901234567890,1\n22345678901234567890,2\n",
        want(2, "card:text n:integer", {"n": 3}, card=["12345678901234567890", "22345678901234567890"]),
    )
    yield text(
        "two currencies in a column",
        "shop,price\nA,£5.00\nB,€7.00\nC,£1.00\n",
        want(3, "price:decimal price_currency:text", {"price": 13}),
        note="mixes currencies",
    )
    yield text(
        "a stray word among numbers",
        "id,n\n" + "".join(f"r{i},{i}\n" for i in range(1, 30)) + "r30,see note\n",
        want(30, "id:text n:integer", {"n": 435}),
        note="no number",
    )
    yield text(
        "points for thousands beside decimal commas",
        "a;b;c\nx;1.200;3,5\ny;2.500;4,5\nz;3.000;1,0\n",
        want(3, "b:integer c:decimal", {"b": 6700, "c": 9}),
    )
    yield text("version numbers stay text", "v,n\n1.2.3,1\n1.10.0,2\n2.0.1,3\n", want(3, "v:text n:integer"))


def _booleans() -> Iterator[Case]:
    def flags(label: str, cells: list[str], yes: int) -> Case:
        rows = "\n".join(f"r{i},{c}" for i, c in enumerate(cells))
        return text(label, f"id,ok\n{rows}\n", want(len(cells), "ok:boolean", {"ok": yes}))

    yield flags("yes and no", ["yes", "no", "yes"], 2)
    yield flags("yes and no in many spellings", ["Yes", "NO", "y", "N", "TRUE"], 3)
    yield flags("true and false", ["TRUE", "FALSE", "TRUE"], 2)
    yield flags("letters", ["Y", "N", "Y", "N"], 2)
    yield flags("ja and nein", ["ja", "nein", "ja"], 2)
    yield flags("marks and blanks", ["x", "", "x", ""], 2)
    yield text("noughts and ones stay numbers", "id,flag\na,1\nb,0\nc,1\n", want(3, "flag:integer", {"flag": 2}))


def _missing() -> Iterator[Case]:
    words = ["", "NA", "N/A", "n/a", "-", "--", "null", "NULL", "NaN", "#N/A", "none", "?", "unknown", "tbc", "n.a."]
    rows = "".join(f"r{i},{w}\n" for i, w in enumerate(words))
    numbers = "".join(f"s{i},{i}.5\n" for i in range(20))
    yield text("many spellings of missing", f"id,n\n{rows}{numbers}", want(35, "n:decimal", {"n": 200}))
    yield text("missing dates", "id,on\na,2024-01-05\nb,-\nc,n/a\nd,2024-02-06\ne,TBC\n", want(5, "on:date"))
    yield text(
        "nines that stand for missing",
        "id,age\n" + "".join(f"r{i},{20 + i}\n" for i in range(20)) + "x,9999\ny,9999\nz,9999\n",
        want(23, "age:integer", {"age": 590}),
        note="read as missing",
    )
    yield text(
        "nines that are values",
        "id,price\n" + "".join(f"r{i},{i * 700}\n" for i in range(20)) + "x,9999\ny,9999\n",
        want(22, "price:integer", {"price": 152998}),
    )
    yield text(
        "Namibia",
        "country,n\nDE,1\nFR,2\nNA,3\nGB,4\nUS,5\nIT,6\n",
        want(6, "country:text n:integer", {}, country=["DE", "FR", "NA", "GB", "US", "IT"]),
    )
    yield text("errors of formulas", "id,n\na,1.5\nb,#DIV/0!\nc,#REF!\nd,2.5\n", want(4, "n:decimal", {"n": 4}))
    yield text(
        "stray blanks",
        " id , town \n a ,  Alder \nb,Birch\t\n",
        want(2, "id:text town:text", {}, town=["Alder", "Birch"]),
    )
    yield text(
        "hard blanks and control characters",
        "id,town\na,\u00a0Alder\u00a0\nb,Bir\u200bch\nc,Ce\x07dar\n",
        want(3, "town:text", {}, town=["Alder", "Birch", "Cedar"]),
        note="non-breaking",
    )


def _dates() -> Iterator[Case]:
    def dates(label: str, cells: list[str], first: str, kind: str = "date", **more: Any) -> Case:
        rows = "\n".join(f'r{i},"{c}"' for i, c in enumerate(cells))
        value: Any = dt.date.fromisoformat(first) if kind == "date" else dt.datetime.fromisoformat(first)
        wanted = Want(len(cells), {"on": kind}, {}, {"on": [value]})
        return text(label, f"id,on\n{rows}\n", wanted, **more)

    yield dates("iso dates", ["2024-03-05", "2024-12-31"], "2024-03-05")
    yield dates("days first", ["05/03/2024", "31/12/2024"], "2024-03-05", note="day first")
    yield dates("months first", ["03/05/2024", "12/31/2024"], "2024-03-05", note="month first")
    yield dates("days first with points", ["05.03.2024", "31.12.2024"], "2024-03-05")
    yield dates("days first with points that could be either", ["05.03.2024", "06.03.2024"], "2024-03-05")
    yield dates("days first with dashes", ["05-03-2024", "31-12-2024"], "2024-03-05")
    yield dates("either way round", ["05/03/2024", "06/04/2024", "01/01/2024"], "2024-03-05", note="either way round")
    yield dates(
        "in order of time one way only",
        [f"{m:02d}/{d:02d}/2024" for m in (1, 2, 3) for d in (3, 7, 11)],
        "2024-01-03",
        note="order of time",
    )
    yield dates("years of two digits", ["05/03/24", "31/12/24"], "2024-03-05")
    yield dates("years of two digits last century", ["05/03/78", "31/12/85"], "1978-03-05")
    yield dates("month names", ["5 Mar 2024", "31 Dec 2024"], "2024-03-05")
    yield dates("month names with dashes", ["05-Mar-2024", "31-Dec-2024"], "2024-03-05")
    yield dates("month names and short years", ["05-Mar-24", "31-Dec-24"], "2024-03-05")
    yield dates("whole month names first", ["March 5, 2024", "December 31, 2024"], "2024-03-05")
    yield dates("ordinals", ["5th March 2024", "31st December 2024"], "2024-03-05")
    yield dates("weekdays in front", ["Tue, 5 March 2024", "Wed, 6 March 2024"], "2024-03-05")
    yield dates("german months", ["5. März 2024", "31. Dezember 2024"], "2024-03-05")
    yield dates("french months", ["5 mars 2024", "31 décembre 2024"], "2024-03-05")
    yield dates("years first with slashes", ["2024/03/05", "2024/12/31"], "2024-03-05")
    yield dates("eight digits", ["20240305", "20241231", "20240606"], "2024-03-05")
    yield dates("several shapes in one column", ["2024-03-05", "6 Mar 2024", "31/12/2024", "2024/01/02"], "2024-03-05")
    yield dates("days of a spreadsheet", ["45356", "45657"], "2024-03-05")
    yield dates("months only", ["Mar 2024", "Dec 2024"], "2024-03-01")
    yield dates("moments", ["2024-03-05 10:30", "2024-12-31 23:59"], "2024-03-05 10:30", "timestamp")
    yield dates("moments with a T", ["2024-03-05T10:30:15", "2024-12-31T23:59:00"], "2024-03-05 10:30:15", "timestamp")
    yield dates("moments in UTC", ["2024-03-05T10:30:15Z", "2024-12-31T23:59:00Z"], "2024-03-05 10:30:15", "timestamp")
    yield dates(
        "moments of one zone",
        ["2024-03-05T10:30:00+02:00", "2024-12-31T23:59:00+02:00"],
        "2024-03-05 10:30:00",
        "timestamp",
    )
    yield dates(
        "moments of two zones",
        ["2024-03-05T10:30:00+02:00", "2024-12-31T23:59:00+01:00"],
        "2024-03-05 08:30:00",
        "timestamp",
        note="UTC",
    )
    yield dates("halves of the day", ["03/05/2024 1:30 PM", "12/31/2024 9:05 AM"], "2024-03-05 13:30", "timestamp")
    yield dates("midnights only", ["2024-03-05 00:00:00", "2024-12-31 00:00:00"], "2024-03-05")
    yield text("seconds since 1970", "id,created_at\na,1709634600\nb,1735689540\n", want(2, "created_at:timestamp"))
    yield text(
        "an impossible date",
        "id,on\n" + "".join(f"r{i},{i:02d}/03/2024\n" for i in range(1, 29)) + "x,31/02/2024\n",
        want(29, "on:date"),
        note="no date",
    )
    yield text(
        "another column decides",
        "a,b\n05/03/2024,25/03/2024\n06/04/2024,26/04/2024\n",
        Want(2, {"a": "date"}, {}, {"a": [dt.date(2024, 3, 5)]}),
    )
    yield text("times of day", "id,at\na,09:30\nb,17:45\nc,23:05\n", want(3, "at:time"))
    yield text(
        "times with halves",
        "id,at\na,9:30 AM\nb,5:45 pm\n",
        Want(2, {"at": "time"}, {}, {"at": [dt.time(9, 30), dt.time(17, 45)]}),
    )
    yield text(
        "durations over a day", "id,worked\na,36:15\nb,08:00\nc,25:30\n", want(3, "worked:duration", {"worked": 251100})
    )
    yield text("durations in words", "id,t\na,2h 30m\nb,45m 10s\nc,1 day 1h\n", want(3, "t:duration", {"t": 101710}))
    yield text(
        "durations by their name",
        "id,duration\na,00:30:00\nb,01:15:30\n",
        want(2, "duration:duration", {"duration": 6330}),
    )
    yield text("years are numbers", "y,n\n2021,1\n2022,2\n2023,3\n", want(3, "y:integer n:integer", {"n": 6}))


def _as_others_make_them() -> Iterator[Case]:
    """Files of kinds that statistics offices, banks and other programs give out."""
    yield text(
        "marks behind numbers",
        "land\t2020 \t2021 \nAT\t12.3 \t: \nBE\t10.1 b\t9.9 \nBG\t5.5 \t5.4 p\n",
        want(3, "2020:decimal 2021:decimal", {"2020": 27.9, "2021": 15.3}),
        file="marks.tsv",
        note="marks behind numbers",
    )
    yield text(
        "asterisks behind numbers",
        "shop,n\nA,10\nB,12*\nC,9\nD,11\n",
        want(4, "n:integer", {"n": 42}),
        note="marks behind numbers",
    )
    yield text(
        "a bank statement",
        "Konto:;DE12 3456\nZeitraum:;01.01.2024 - 31.03.2024\n\nTag;Zweck;Betrag\n02.01.2024;Miete;-850,00\n05.01.2024;Gehalt;2.450,00\n",
        want(2, "Tag:date Zweck:text Betrag:decimal", {"Betrag": 1600}),
    )
    yield text(
        "questions under the header",
        "Q1,Q2,Q3\nHow old are you?,Where do you live?,How satisfied are you?\n34,North,5\n45,South,3\n29,North,4\n",
        want(3, "Q1:integer Q2:text Q3:integer", {"Q1": 108}),
        note="describes the columns",
    )
    yield text(
        "a query's printed result",
        " id | name  | amount \n----+-------+--------\n  1 | Ann   |  10.50\n  2 | Bob   |  20.00\n(2 rows)\n",
        want(2, "id:integer name:text amount:decimal", {"amount": 30.5}),
        file="result.txt",
    )
    yield text(
        "a printed table with corners",
        "+----+------+\n| id | fee  |\n+----+------+\n|  1 | 1.50 |\n|  2 | 2.50 |\n+----+------+\n",
        want(2, "id:integer fee:decimal", {"fee": 4}),
        file="result.txt",
    )
    yield text(
        "a report with bars and minus behind",
        "|No   |Text     |Amount   |\n|-----|---------|---------|\n|1001 |Screw    |1.000,00 |\n|1002 |Nut      |  125,50-|\n",
        want(2, "No:integer Text:text Amount:decimal", {"Amount": 874.5}),
        file="report.txt",
    )
    yield text("lap times", "lap,time\n1,1:23.456\n2,1:22.987\n", want(2, "time:duration", {"time": 166.443}))
    yield text(
        "all of them in the last row",
        "region,sales\nNorth,1200\nSouth,3400\nAll regions,4600\n",
        want(2, "region:text sales:integer", {"sales": 4600}),
    )
    yield text(
        "a running number that adds up by chance",
        "id,name\n1,a\n2,b\n3,c\n",
        want(3, "id:integer name:text", {"id": 6}),
    )
    yield text(
        "points for thousands beside semicolons",
        "a;b\n1.000;2\n2.500;3\n",
        want(2, "a:integer b:integer", {"a": 3500}),
        note="the number",
    )
    yield text(
        "a currency in the name",
        "name;Umsatz (in €)\nA;1.500,00\nB;2.500,00\n",
        want(2, "name:text", {"Umsatz (in €)": 4000}),
        units={"Umsatz (in €)": "EUR"},
    )
    yield text(
        "a number beyond all numbers",
        "name,n\nA,1e400\nB,2.5\nC,3.5\nD,1.5\n",
        want(4, "n:float", {"n": 7.5}),
        note="no number",
    )
    yield text(
        "running text with commas that line up",
        "ID    NAME            AMOUNT  DATE\n0001  Smith, John     1200.50 2024-01-05\n0002  Bell, Ann         75.25 2024-02-10\n",
        want(2, "ID:text NAME:text AMOUNT:decimal DATE:date", {"AMOUNT": 1275.75}),
        file="lined.txt",
    )
    yield Case(
        "a list deep in an object",
        "deep.json",
        json.dumps({"meta": {"n": 2}, "data": {"rows": [{"id": 1, "v": "2.5"}, {"id": 2, "v": "3.5"}]}}).encode(),
        (want(2, "id:integer v:decimal", {"v": 6}),),
    )

    weather = "Oxford\nLocation: 450900E 207200N, Lat 51.761\n   yyyy  mm   tmax    rain     sun\n              degC      mm   hours\n   1853   1    8.4    62.8     ---\n   1853   2    3.2    29.3    40.5\n   1853   3    7.7    25.9    50.1*\n"
    yield text(
        "a weather station's columns",
        weather,
        want(3, "yyyy:integer mm:integer tmax:decimal sun:decimal", {"tmax": 19.3, "sun": 90.6}),
        file="station.txt",
        note="units",
    )

    def report(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Q1")
        s.merge_range("A1:D1", "Quarterly report")
        s.merge_range("A2:A3", "Region")
        s.merge_range("B2:C2", "Sales")
        s.write("D2", "Cost")
        s.write_row("B3", ["Units", "Value", "Euro"])
        for r in range(4):
            s.write_row(3 + r, 0, [f"R{r}", r * 10, r * 1.5, r * 2])

    yield Case(
        "a title above a merged header",
        "report.xlsx",
        book(report),
        (want(4, "Region:text", {"Sales Units": 60, "Cost Euro": 12}),),
    )

    def words(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Plan")
        for r, row in enumerate(
            [
                ["task", "owner", "done"],
                ["T1", "Ann", "yes"],
                ["T2", "Bo", "no"],
                [],
                [],
                ["risk", "level"],
                ["R1", "low"],
                ["R2", "high"],
                ["R3", "mid"],
            ]
        ):
            s.write_row(r, 0, row)

    yield Case(
        "two tables of words",
        "plan.xlsx",
        book(words),
        (want(2, "task:text done:boolean"), want(3, "risk:text level:text")),
    )


def book(build: Callable[[xlsxwriter.Workbook], None]) -> bytes:
    stream = io.BytesIO()
    workbook = xlsxwriter.Workbook(stream)
    build(workbook)
    workbook.close()
    return stream.getvalue()


def _workbooks() -> Iterator[Case]:
    def typed(w: xlsxwriter.Workbook) -> None:
        s, day, clock = (
            w.add_worksheet("Visits"),
            w.add_format({"num_format": "dd/mm/yyyy"}),
            w.add_format({"num_format": "hh:mm"}),
        )
        s.write_row(0, 0, ["id", "on", "at", "fee", "ok"])
        for r in range(1, 6):
            s.write(r, 0, f"V{r}")
            s.write_datetime(r, 1, dt.datetime(2024, 3, r), day)
            s.write_datetime(r, 2, dt.time(9, r), clock)
            s.write(r, 3, r * 1.5)
            s.write_boolean(r, 4, r % 2 == 0)

    yield Case(
        "a plain sheet",
        "plain.xlsx",
        book(typed),
        (want(5, "id:text on:date at:time fee:decimal ok:boolean", {"fee": 22.5, "ok": 2}),),
    )

    def titled(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Report")
        s.merge_range(0, 0, 0, 3, "Visits of the year")
        s.write(1, 0, "Brackenfold Vets")
        s.write_row(3, 1, ["clinic", "visits", "fees"])
        for r in range(4):
            s.write_row(4 + r, 1, [f"Clinic {r}", r * 10, r * 1.5])
        s.write_row(8, 1, ["Total", 60, 9])
        s.write(10, 1, "Source: the clinics")

    yield Case(
        "titles, an offset, a total and a note",
        "titled.xlsx",
        book(titled),
        (want(4, "clinic:text visits:integer fees:decimal", {"visits": 60, "fees": 9}),),
        "Total",
    )

    def merged(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.write_row(0, 0, ["region", "shop", "n"])
        s.merge_range(1, 0, 3, 0, "North")
        s.merge_range(4, 0, 5, 0, "South")
        for r in range(5):
            s.write_row(1 + r, 1, [f"S{r}", r])

    yield Case(
        "cells merged downwards",
        "merged.xlsx",
        book(merged),
        (want(5, "region:text shop:text n:integer", {"n": 10}, region=["North", "North", "North", "South", "South"]),),
        "merged",
    )

    def grouped(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.merge_range(0, 1, 0, 2, "2023")
        s.merge_range(0, 3, 0, 4, "2024")
        s.write_row(1, 0, ["shop", "plan", "actual", "plan", "actual"])
        for r in range(3):
            s.write_row(2 + r, 0, [f"S{r}", 1, 2, 3, 4])

    yield Case(
        "a merged header of two rows",
        "grouped.xlsx",
        book(grouped),
        (want(3, "shop:text", {"2023 plan": 3, "2024 actual": 12}),),
        "Two header rows",
    )

    def hidden(w: xlsxwriter.Workbook) -> None:
        for name in ("Data", "Lists"):
            s = w.add_worksheet(name)
            s.write_row(0, 0, ["a", "n"])
            s.write_row(1, 0, ["x", 1])
            s.write_row(2, 0, ["y", 2])
            if name == "Lists":
                s.hide()

    yield Case("a hidden sheet", "hidden.xlsx", book(hidden), (want(2, "a:text n:integer", {"n": 3}),), "hidden sheet")

    def years(w: xlsxwriter.Workbook) -> None:
        w.add_worksheet("Read me").write(0, 0, "This workbook holds the sales of two years.")
        for year in (2023, 2024):
            s = w.add_worksheet(str(year))
            s.write_row(0, 0, ["shop", "amount"])
            s.write_row(1, 0, ["A", year])
            s.write_row(2, 0, ["B", 1])
        w.add_worksheet("Empty")

    yield Case(
        "a sheet a year",
        "years.xlsx",
        book(years),
        (want(2, "shop:text amount:integer", {"amount": 2024}), want(2, "shop:text amount:integer", {"amount": 2025})),
    )

    def beside(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.write_row(0, 0, ["shop", "n"])
        s.write_row(0, 3, ["month", "cost", "note"])
        for r in range(3):
            s.write_row(1 + r, 0, [f"S{r}", r])
        for r in range(5):
            s.write_row(1 + r, 3, [f"M{r}", r * 2, "x"])

    yield Case(
        "two tables beside each other",
        "beside.xlsx",
        book(beside),
        (want(3, "shop:text n:integer", {"n": 3}), want(5, "month:text cost:integer note:text", {"cost": 20})),
        "2 tables",
    )

    def below(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.write(0, 0, "Shops")
        s.write_row(1, 0, ["shop", "n"])
        for r in range(3):
            s.write_row(2 + r, 0, [f"S{r}", r])
        s.write(6, 0, "Costs")
        s.write_row(7, 0, ["month", "cost", "paid"])
        for r in range(4):
            s.write_row(8 + r, 0, [f"M{r}", r * 2, "yes"])

    yield Case(
        "two tables below each other",
        "below.xlsx",
        book(below),
        (want(3, "shop:text n:integer", {"n": 3}), want(4, "month:text cost:integer paid:boolean", {"cost": 12})),
    )

    def formulas(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.write_row(0, 0, ["a", "b", "c"])
        for r in range(1, 5):
            s.write(r, 0, r)
            s.write_formula(r, 1, f"=A{r + 1}*2", None, r * 2)
            s.write_formula(r, 2, "=1/0", None, "#DIV/0!" if r == 2 else r)

    yield Case(
        "stored values of formulas, and errors",
        "formulas.xlsx",
        book(formulas),
        (want(4, "a:integer b:integer c:integer", {"b": 20, "c": 8}),),
        "formula gave an error",
    )

    def texts(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.write_row(0, 0, ["code", "amount", "on"])
        for r in range(1, 5):
            s.write_string(r, 0, f"00{r}")
            s.write_string(r, 1, f"{r}.50")
            s.write_string(r, 2, f"{r + 12}/03/2024")

    yield Case(
        "numbers and dates kept as text",
        "texts.xlsx",
        book(texts),
        (want(4, "code:text amount:decimal on:date", {"amount": 12}),),
    )

    def spaced(w: xlsxwriter.Workbook) -> None:
        s = w.add_worksheet("Sheet1")
        s.write_row(2, 2, ["shop", "", "n"])
        for r in range(3):
            s.write_row(3 + r, 2, [f"S{r}", None, r])

    yield Case(
        "an empty column and an offset", "spaced.xlsx", book(spaced), (want(3, "shop:text n:integer", {"n": 3}),)
    )


def _wrapped() -> Iterator[Case]:
    plain = VISITS.encode()
    yield Case("gzip", "visits.csv.gz", gzip.compress(plain), (VISITS_WANT,))
    stream = io.BytesIO()
    with zipfile.ZipFile(stream, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("2023/visits.csv", plain)
        archive.writestr("2024/visits.csv", plain)
        archive.writestr("__MACOSX/._visits.csv", b"junk")
    yield Case("a zip of two files", "visits.zip", stream.getvalue(), (VISITS_WANT, VISITS_WANT))
    records = [{"id": f"r{i}", "n": i, "at": {"town": "Alder", "row": i}, "tags": ["a", "b"]} for i in range(5)]
    wanted = want(5, "id:text n:integer at_town:text at_row:integer tags:text", {"n": 10, "at_row": 10})
    yield Case("an array of objects", "rows.json", json.dumps(records).encode(), (wanted,))
    yield Case("an object a line", "rows.jsonl", "\n".join(map(json.dumps, records)).encode(), (wanted,))
    yield Case("a list within an object", "rows.json", json.dumps({"count": 5, "items": records}).encode(), (wanted,))
    yield Case(
        "objects that lack fields",
        "rows.json",
        json.dumps([{"a": 1}, {"a": 2, "b": "x"}, {"b": "y"}]).encode(),
        (want(3, "a:integer b:text", {"a": 3}),),
        "lack some",
    )
    yield Case(
        "numbers and dates as text in JSON",
        "rows.json",
        json.dumps(
            [{"n": "1.5", "on": "2024-01-05", "code": "007"}, {"n": "2.5", "on": "2024-01-06", "code": "010"}]
        ).encode(),
        (want(2, "n:decimal on:date code:text", {"n": 4}),),
    )
    out = io.BytesIO()
    table = pa.table(
        {
            "id": ["a", "b", "c"],
            "n": pa.array([1, 2, None], pa.int32()),
            "x": [1.5, 2.5, None],
            "on": [dt.date(2024, 1, 5)] * 3,
            "as_text": ["1.5", "2.5", "3"],
            "took": pa.array([dt.timedelta(hours=1)] * 3, pa.duration("us")),
        }
    )
    pq.write_table(table.drop_columns(["took"]), out)
    yield Case(
        "parquet",
        "rows.parquet",
        out.getvalue(),
        (want(3, "id:text n:integer x:float on:date as_text:decimal", {"n": 3, "as_text": 7}),),
    )
    page = "<html><body><table><tr><th>shop</th><th>n</th></tr><tr><td rowspan=2>A</td><td>1</td></tr><tr><td>2</td></tr><tr><td>B &amp; C</td><td>3</td></tr></table></body></html>"
    yield Case(
        "a table of a web page",
        "page.html",
        page.encode(),
        (want(3, "shop:text n:integer", {"n": 6}, shop=["A", "A", "B & C"]),),
    )
    yield Case(
        "a web page that calls itself a workbook",
        "export.xls",
        page.encode(),
        (want(3, "shop:text n:integer", {"n": 6}),),
    )
    yield Case(
        "pasted cells",
        "pasted.txt",
        b"shop\tn\tfee\nA\t1\t1.50\nB\t2\t2.50\n",
        (want(2, "shop:text n:integer fee:decimal", {"fee": 4}),),
    )


def cases() -> list[Case]:
    """Every dirty file."""
    groups = (
        _encodings,
        _delimiters,
        _quotes,
        _ragged,
        _layout,
        _totals,
        _numbers,
        _booleans,
        _missing,
        _dates,
        _workbooks,
        _wrapped,
        _as_others_make_them,
    )
    return [case for group in groups for case in group()]
