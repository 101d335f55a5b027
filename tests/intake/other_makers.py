"""Files of makers elsewhere: other scripts, other habits of reports, statements and programs that export."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable, Iterator

import xlsxwriter

from tests.intake.dirty_files import Case, text, want


def _sheet(name: str, rows: list[list[object]], *wants: object, note: str = "") -> Case:
    """A workbook of one sheet."""
    out = io.BytesIO()
    with xlsxwriter.Workbook(out) as book:
        sheet = book.add_worksheet("Sheet1")
        for r, row in enumerate(rows):
            for c, value in enumerate(row):
                if value is not None:
                    sheet.write(r, c, value)
    return Case(name, f"{name.replace(' ', '_')}.xlsx", out.getvalue(), tuple(wants), note)  # type: ignore[arg-type]


def _scripts() -> Iterator[Case]:
    """Text in the encodings of other scripts, each told by what its bytes spell."""
    stock = [
        ("склад", "товар", "остаток"),
        ("Север", "Гвозди", "120"),
        ("Юг", "Доски", "85"),
        ("Восток", "Краска", "40"),
        ("Запад", "Лампы", "7"),
    ]
    for label, encoding in (
        ("cyrillic of windows", "cp1251"),
        ("cyrillic of mail", "koi8_r"),
        ("cyrillic of dos", "cp866"),
    ):
        yield text(
            label,
            "".join(";".join(r) + "\n" for r in stock),
            want(
                4,
                "склад:text товар:text остаток:integer",
                {"остаток": 252},
                товар=["Гвозди", "Доски", "Краска", "Лампы"],
            ),
            encoding=encoding,
        )
    shops = [("店舗", "商品", "数量"), ("東京", "りんご", "12"), ("大阪", "みかん", "30"), ("名古屋", "バナナ", "8")]
    for label, encoding in (("japanese of windows", "cp932"), ("japanese of unix", "euc_jp")):
        yield text(
            label,
            "".join(",".join(r) + "\n" for r in shops),
            want(3, "店舗:text 商品:text 数量:integer", {"数量": 50}, 店舗=["東京", "大阪", "名古屋"]),
            encoding=encoding,
        )
    plants = [("城市", "产品", "数量"), ("北京", "苹果", "12"), ("上海", "香蕉", "30"), ("广州", "橙子", "8")]
    yield text(
        "chinese of the mainland",
        "".join(",".join(r) + "\n" for r in plants),
        want(3, "城市:text 产品:text 数量:integer", {"数量": 50}, 城市=["北京", "上海", "广州"]),
        encoding="gb18030",
    )
    taipei = [("城市", "產品", "數量"), ("臺北", "蘋果", "12"), ("高雄", "香蕉", "30"), ("臺中", "橘子", "8")]
    yield text(
        "chinese of taiwan",
        "".join(",".join(r) + "\n" for r in taipei),
        want(3, "城市:text 產品:text 數量:integer", {"數量": 50}, 城市=["臺北", "高雄", "臺中"]),
        encoding="big5",
    )
    seoul = [("도시", "상품", "수량"), ("서울", "사과", "12"), ("부산", "바나나", "30"), ("대구", "오렌지", "8")]
    yield text(
        "korean of windows",
        "".join(",".join(r) + "\n" for r in seoul),
        want(3, "도시:text 상품:text 수량:integer", {"수량": 50}, 도시=["서울", "부산", "대구"]),
        encoding="cp949",
    )
    athens = [
        ("πόλη", "προϊόν", "ποσότητα"),
        ("Αθήνα", "Ελιές", "12"),
        ("Πάτρα", "Λάδι", "30"),
        ("Βόλος", "Ψάρια", "8"),
    ]
    yield text(
        "greek of windows",
        "".join(";".join(r) + "\n" for r in athens),
        want(3, "πόλη:text προϊόν:text ποσότητα:integer", {"ποσότητα": 50}, πόλη=["Αθήνα", "Πάτρα", "Βόλος"]),
        encoding="cp1253",
    )
    haifa = [("עיר", "מוצר", "כמות"), ("חיפה", "תפוחים", "12"), ("ירושלים", "בננות", "30"), ("אילת", "תמרים", "8")]
    yield text(
        "hebrew of windows",
        "".join(",".join(r) + "\n" for r in haifa),
        want(3, "עיר:text מוצר:text כמות:integer", {"כמות": 50}, עיר=["חיפה", "ירושלים", "אילת"]),
        encoding="cp1255",
    )
    krakow = "miasto;towar;ilość\nŁódź;Świece;12\nKraków;Żarówki;30\nGdańsk;Gwoździe;8\nPoznań;Ścierki;5\n"
    for label, encoding in (("polish of windows", "cp1250"), ("polish of unix", "iso8859_2")):
        yield text(
            label,
            krakow,
            want(
                4, "miasto:text towar:text ilość:integer", {"ilość": 55}, miasto=["Łódź", "Kraków", "Gdańsk", "Poznań"]
            ),
            encoding=encoding,
        )
    brno = "město;zboží;kusů\nPlzeň;Hřebíky;12\nBrno;Žárovky;30\nOstrava;Svíčky;8\nČeské Budějovice;Šrouby;3\n"
    yield text(
        "czech of windows",
        brno,
        want(
            4,
            "město:text zboží:text kusů:integer",
            {"kusů": 53},
            město=["Plzeň", "Brno", "Ostrava", "České Budějovice"],
        ),
        encoding="cp1250",
    )
    izmir = "şehir;ürün;adet\nİstanbul;Çivi;12\nİzmir;Ampul;30\nMuğla;Fırça;8\nEskişehir;Boya;3\n"
    yield text(
        "turkish of windows",
        izmir,
        want(4, "şehir:text ürün:text adet:integer", {"adet": 53}, şehir=["İstanbul", "İzmir", "Muğla", "Eskişehir"]),
        encoding="cp1254",
    )
    yield Case(
        "objects in windows-1252",
        "orte.json",
        json.dumps([{"Ort": "Köln", "n": 1}, {"Ort": "Zürich", "n": 2}], ensure_ascii=False).encode("cp1252"),
        (want(2, "Ort:text n:integer", {"n": 3}, Ort=["Köln", "Zürich"]),),
        "Windows-1252",
    )
    yield Case(
        "objects in utf-16",
        "miasta.json",
        json.dumps([{"miasto": "Łódź", "n": 1}, {"miasto": "Gdańsk", "n": 2}], ensure_ascii=False).encode("utf-16"),
        (want(2, "miasto:text n:integer", {"n": 3}, miasto=["Łódź", "Gdańsk"]),),
    )


def _totals() -> Iterator[Case]:
    """Rows that add up others, in the words of other languages, and at the end of statements."""
    for label, word, also in (
        ("german totals", "Gesamtsumme", "Zwischensumme"),
        ("french totals", "Total général", "Sous-total"),
        ("spanish totals", "Total general", "Subtotal"),
        ("italian totals", "Totale complessivo", "Totale parziale"),
        ("dutch totals", "Totaal", "Subtotaal"),
        ("polish totals", "Razem", "Suma częściowa"),
        ("portuguese totals", "Total geral", "Subtotal"),
        ("swedish totals", "Summa", "Delsumma"),
    ):
        yield text(
            label,
            f"place;thing;sum\nAlder;a;10\nAlder;b;20\n{also};;30\nBirch;c;5\nBirch;d;15\n{also};;20\n{word};;50\n",
            want(4, "place:text thing:text sum:integer", {"sum": 50}),
        )
    yield text(
        "a statement with its closing balance",
        "Date,Details,Paid out,Paid in,Balance\n"
        "01/03/2025,Opening balance,,,100.00\n"
        "02/03/2025,Card 1182 Mill Cafe,4.50,,95.50\n03/03/2025,Salary,,1500.00,1595.50\n17/03/2025,Rent,650.00,,945.50\n"
        ",Closing balance,,,945.50\n"
        ",Total,654.50,1500.00,\n",
        want(4, "Date:date Details:text Balance:decimal", {"Paid·out": 654.5, "Paid·in": 1500}),
    )
    yield text(
        "a statement with titles and a carried balance",
        "Account;40-11-82 8829\nPeriod;March 2025\n\n"
        "Buchungstag;Text;Betrag\n03.03.2025;Miete;-650,00\n04.03.2025;Gehalt;1.500,00\n21.03.2025;Strom;-61,20\n\n"
        "Endsaldo;;788,80\n",
        want(3, "Buchungstag:date Text:text Betrag:decimal", {"Betrag": 788.8}),
    )
    yield text(
        "a total in the last column's words",
        "staff,task,hours\nAda,plan,3\nBo,build,7\nCy,test,2\n,Sum of hours,12\n",
        want(3, "staff:text task:text hours:integer", {"hours": 12}),
    )
    yield text(
        "an average at the foot",
        "day,rain_mm\n2025-03-01,2.5\n2025-03-02,4.0\n2025-03-03,0.0\nMean,2.2\nMax,4.0\n",
        want(3, "day:date rain_mm:decimal", {"rain_mm": 6.5}),
    )


def _books() -> Iterator[Case]:
    yield text(
        "credit and debit behind the amounts",
        "date,amount\n2025-03-01,100.25 CR\n2025-03-02,40.00 DR\n2025-03-03,25.50 CR\n",
        want(3, "date:date amount:decimal", {"amount": 85.75}),
    )


def _comments() -> Iterator[Case]:
    yield text(
        "comment lines above",
        "# made by logger 4.2\n# station: Alder, unit 3\n# all times local\ntime,temp\n2025-01-01 00:00,3.5\n2025-01-01 01:00,3.0\n",
        want(2, "time:timestamp temp:decimal", {"temp": 6.5}),
    )
    yield text(
        "a comment before the names",
        "#time,temp,hum\n2025-01-01 00:00,3.5,81\n2025-01-01 01:00,3.0,83\n2025-01-01 02:00,2.5,84\n",
        want(3, "temp:decimal hum:integer", {"temp": 9, "hum": 248}),
    )
    yield text(
        "comments between the rows",
        "id,n\n1,10\n2,20\n# pump restarted\n3,30\n# end of shift\n4,40\n",
        want(4, "id:integer n:integer", {"n": 100}),
    )
    yield text(
        "comments of semicolons",
        "; exported 2025-03-01\n; by: till 2\nitem,n\ntea,4\nmilk,6\nbread,2\n",
        want(3, "item:text n:integer", {"n": 12}),
    )
    yield text(
        "comments of slashes",
        "// sensor A\n// firmware 7\nt,v\n0,1.5\n1,2.5\n2,3.5\n",
        want(3, "t:integer v:decimal", {"v": 7.5}),
    )
    yield text(
        "per cent signs before remarks",
        "% results of run 12\n% alpha = 0.1\nstep,loss\n1,0.9\n2,0.7\n3,0.4\n",
        want(3, "step:integer loss:decimal", {"loss": 2.0}),
    )
    yield text(
        "hashes that are values",
        "tag,n\n#spring,4\n#summer,7\n#autumn,2\n",
        want(3, "tag:text n:integer", {"n": 13}, tag=["#spring", "#summer", "#autumn"]),
    )


def _pages() -> Iterator[Case]:
    page = "Part      Bin     Qty\n"
    head = "part,bin,qty\n"
    yield text(
        "heads repeated on each page",
        head + "A1,L1,4\nA2,L1,6\n" + head + "B1,L2,3\nB2,L2,7\n" + head + "C1,L3,5\n",
        want(5, "part:text bin:text qty:integer", {"qty": 25}),
    )
    yield text(
        "pages with lines of their own",
        "Stock list\nPage 1 of 2\n"
        + head
        + "A1,L1,4\nA2,L1,6\n"
        + "Stock list\nPage 2 of 2\n"
        + head
        + "B1,L2,3\nB2,L2,7\n",
        want(4, "part:text bin:text qty:integer", {"qty": 20}),
    )
    yield text(
        "pages of columns that line up",
        "STORES REPORT          PAGE 1\n\n" + page + "A1        L1        4\nA2        L1        6\n\n"
        "STORES REPORT          PAGE 2\n\n" + page + "B1        L2        3\nB2        L2        7\n",
        want(4, "Part:text Bin:text Qty:integer", {"Qty": 20}),
        file="stores.txt",
    )
    yield text(
        "a rule of dashes on each page",
        "part,bin,qty\n----,---,---\nA1,L1,4\nA2,L1,6\npart,bin,qty\n----,---,---\nB1,L2,3\n",
        want(3, "part:text bin:text qty:integer", {"qty": 13}),
    )
    yield _sheet(
        "pages in a sheet",
        [["Stock list"], ["Page 1"], [], ["part", "bin", "qty"], ["A1", "L1", 4], ["A2", "L1", 6], [],
         ["Stock list"], ["Page 2"], [], ["part", "bin", "qty"], ["B1", "L2", 3], ["B2", "L2", 7]],
        want(4, "part:text bin:text qty:integer", {"qty": 20}),
    )  # fmt: skip


def _heads() -> Iterator[Case]:
    yield _sheet(
        "a head of three lines",
        [[None, "North", None, "South", None], [None, "2024", "2025", "2024", "2025"], ["item", "units", "units", "units", "units"],
         ["tea", 1, 2, 3, 4], ["milk", 5, 6, 7, 8], ["bread", 9, 10, 11, 12]],
        want(3, "item:text North·2024·units:integer South·2025·units:integer", {"North·2024·units": 15, "South·2025·units": 24}),
    )  # fmt: skip
    yield text(
        "a head of three lines as text",
        ",Income,Income,Costs,Costs\n,plan,real,plan,real\nmonth,EUR,EUR,EUR,EUR\nJan,10,11,7,6\nFeb,12,10,8,9\nMar,9,14,6,6\n",
        want(
            3,
            "month:text Income·plan·EUR:integer Costs·real·EUR:integer",
            {"Income·plan·EUR": 31, "Costs·real·EUR": 21},
        ),
    )
    yield _sheet(
        "a head of two lines with one word over both",
        [
            ["site", "readings", None, "remark"],
            [None, "am", "pm", None],
            ["A", 1, 2, "ok"],
            ["B", 3, 4, "dry"],
            ["C", 5, 6, "ok"],
        ],
        want(3, "site:text readings·am:integer readings·pm:integer remark:text", {"readings·am": 9}),
    )
    yield text(
        "names, units and kinds under each other",
        "time,flow,level\ns,l/min,m\n0,1.5,2.0\n1,2.5,2.1\n2,3.5,2.2\n",
        want(3, "time:integer flow:decimal level:decimal", {"flow": 7.5}),
    )
    yield text("a head and no rows", "order,customer,amount\n", note="no row below it")
    yield _sheet(
        "a report with a head and no rows",
        [["Orders of March"], [], ["order", "customer", "amount"]],
        note="no row below it",
    )
    yield text(
        "a title, a head and no rows",
        "Orders of March\n\norder;customer;amount\n",
        note="no row below it",
    )


def _blocks() -> Iterator[Case]:
    yield _sheet(
        "a title block beside its labels",
        [["Brackenfold Stores"], ["Report", "Stock on hand"], ["Run by", "Ada"], ["On", "2025-03-01"], [],
         ["part", "bin", "qty"], ["A1", "L1", 4], ["A2", "L1", 6], ["B1", "L2", 3]],
        want(3, "part:text bin:text qty:integer", {"qty": 13}),
    )  # fmt: skip
    yield _sheet(
        "an invoice with its address",
        [["INVOICE", None, None, "No.", 1042], ["Brackenfold Stores", None, None, "Date", "2025-03-01"], ["1 Mill Lane"], ["Alder"], [],
         ["Bill to:"], ["Quarry Bank School"], ["9 High Street"], ["Birch"], [],
         ["item", "qty", "price", "amount"], ["chairs", 4, 12.5, 50], ["desks", 2, 40, 80], ["lamps", 3, 9, 27], [],
         [None, None, "Subtotal", 157], [None, None, "VAT 20%", 31.4], [None, None, "Total due", 188.4], [], ["Thank you for your order"]],
        want(3, "item:text qty:integer amount:integer", {"amount": 157}),
    )  # fmt: skip
    yield _sheet(
        "a form above the table",
        [["Name:", "Ada Bell", None, "Team:", "North"], ["Week:", 12, None, "Signed:", "yes"], [],
         ["day", "start", "end", "hours"], ["Mon", "09:00", "17:00", 8], ["Tue", "09:00", "16:00", 7], ["Wed", "10:00", "17:00", 7]],
        want(3, "day:text hours:integer", {"hours": 22}),
    )  # fmt: skip
    yield _sheet(
        "two tables under each other with titles",
        [
            ["Income"],
            ["month", "amount"],
            ["Jan", 10],
            ["Feb", 12],
            ["Mar", 9],
            [],
            ["Costs"],
            ["month", "kind", "amount"],
            ["Jan", "rent", 4],
            ["Feb", "rent", 4],
            ["Mar", "power", 2],
        ],
        want(3, "month:text amount:integer", {"amount": 31}),
        want(3, "month:text kind:text amount:integer", {"amount": 10}),
    )
    yield _sheet(
        "a legend beside the table",
        [
            ["code", "n", None, None, "legend"],
            ["A", 4, None, None, "A = open"],
            ["B", 6, None, None, "B = shut"],
            ["A", 2],
            ["C", 1],
        ],
        want(4, "code:text n:integer", {"n": 13}),
    )


def _quotes() -> Iterator[Case]:
    yield text(
        "inches in unquoted cells",
        'item,size,n\npipe,3/4" x 2m,5\nbolt,1" x 1/4",7\nnut,2",9\n',
        want(3, "item:text size:text n:integer", {"n": 21}, size=['3/4" x 2m', '1" x 1/4"', '2"']),
    )
    yield text(
        "a quote in the middle of a name",
        'name,n\nAnn "Nan" Bell,1\nBo Dent,2\nCy "the hat,3\nDee,4\n',
        want(4, "name:text n:integer", {"n": 10}, name=['Ann "Nan" Bell', "Bo Dent", 'Cy "the hat', "Dee"]),
    )
    yield text(
        "a quote that is never closed",
        'id,remark,n\n1,"fine,10\n2,also fine,20\n3,good,30\n4,"as said",40\n',
        want(4, "id:integer remark:text n:integer", {"n": 100}),
    )
    yield text(
        "quotes around some cells and inches in others",
        'item,note,n\n"pipe, long",2" wide,5\n"bolt",plain,7\nnut,"said ""ok""",9\n',
        want(
            3,
            "item:text note:text n:integer",
            {"n": 21},
            item=["pipe, long", "bolt", "nut"],
            note=['2" wide', "plain", 'said "ok"'],
        ),
    )
    yield text(
        "apostrophes in names",
        "name;n\nO'Hara;1\nD'Arcy;2\nRock 'n' Roll;3\n",
        want(3, "name:text n:integer", {"n": 6}, name=["O'Hara", "D'Arcy", "Rock 'n' Roll"]),
    )


def _objects() -> Iterator[Case]:
    orders = [
        {"id": i, "who": f"C{i % 2}", "lines": [{"item": "tea", "n": i}, {"item": "milk", "n": 1}]} for i in range(1, 4)
    ]
    yield Case(
        "orders with their lines",
        "orders.json",
        json.dumps(orders).encode(),
        (
            want(3, "id:integer who:text", {"id": 6}),
            want(6, "order_id:integer item:text n:integer", {"n": 9, "order_id": 12}),
        ),
        "tables of their own",
    )
    yield Case(
        "several lists in an object",
        "export.json",
        json.dumps({"made": "2025-03-01", "shops": [{"shop": "A", "town": "Alder"}, {"shop": "B", "town": "Birch"}],
                    "sales": [{"shop": "A", "n": 4}, {"shop": "B", "n": 6}, {"shop": "A", "n": 1}]}).encode(),
        (want(2, "shop:text town:text"), want(3, "shop:text n:integer", {"n": 11})),
        "a table each",
    )  # fmt: skip
    yield Case(
        "objects three levels deep",
        "people.json",
        json.dumps([{"name": {"first": "Ada", "last": "Bell"}, "home": {"place": {"town": "Alder", "zip": "0123"}, "since": 2019}},
                    {"name": {"first": "Bo", "last": "Dent"}, "home": {"place": {"town": "Birch", "zip": "0456"}, "since": 2021}}]).encode(),
        (want(2, "name_first:text home_place_town:text home_place_zip:text home_since:integer", {}, home_place_zip=["0123", "0456"]),),
    )  # fmt: skip
    yield Case(
        "an answer of a service with pages",
        "page.json",
        json.dumps(
            {
                "links": [{"rel": "next", "href": "/x?page=2"}],
                "data": {"total": 2, "results": [{"id": 1, "v": 2.5}, {"id": 2, "v": 3.5}]},
            }
        ).encode(),
        (want(2, "id:integer v:decimal", {"v": 6}),),
    )
    yield Case(
        "lists inside lists",
        "houses.json",
        json.dumps(
            {
                "houses": [
                    {"house": "H1", "rooms": [{"room": "a", "beds": [{"bed": 1}, {"bed": 2}]}]},
                    {"house": "H2", "rooms": [{"room": "b", "beds": [{"bed": 3}]}]},
                ]
            }
        ).encode(),
        (
            want(2, "house:text"),
            want(2, "house:text room:text", {}, house=["H1", "H2"]),
            want(3, "room:text bed:integer", {"bed": 6}),
        ),
    )
    yield Case(
        "empty objects and lists among values",
        "odd.json",
        json.dumps([{"a": 1, "b": {}, "c": []}, {"a": 2, "b": {"x": "y"}, "c": ["p", "q"]}]).encode(),
        (want(2, "a:integer c:text", {"a": 3}, c=[None, "p; q"]),),
    )
    yield Case(
        "names and rows of cells apart",
        "split.json",
        json.dumps({"columns": ["a", "b"], "data": [[1, "x"], [3, "y"]]}).encode(),
        (want(2, "a:integer b:text", {"a": 4}),),
    )
    yield Case(
        "features of a map",
        "places.geojson",
        json.dumps({"type": "FeatureCollection", "features": [
            {"type": "Feature", "properties": {"name": "Mill", "beds": 4}, "geometry": {"type": "Point", "coordinates": [1.5, 52.1]}},
            {"type": "Feature", "properties": {"name": "Barn", "beds": 6}, "geometry": {"type": "Point", "coordinates": [1.6, 52.2]}}]}).encode(),
        (want(2, "properties_name:text properties_beds:integer", {"properties_beds": 10}),),
    )  # fmt: skip


def _codes() -> Iterator[Case]:
    yield text(
        "marks of which some are true or false",
        "id,mark\n1,T\n2,F\n3,T\n4,P\n5,F\n6,T\n7,A\n",
        want(7, "id:integer mark:text", {}, mark=["T", "F", "T", "P", "F", "T", "A"]),
    )
    yield text(
        "yes, no and maybe",
        "id,coming\n1,Y\n2,N\n3,Y\n4,M\n5,N\n6,Y\n",
        want(6, "id:integer coming:text", {}, coming=["Y", "N", "Y", "M", "N", "Y"]),
    )
    yield text(
        "fuel by its letter",
        "car,fuel\n1,D\n2,P\n3,E\n4,D\n5,P\n",
        want(5, "car:integer fuel:text"),
    )
    yield text(
        "male and female",
        "id,sex\n1,M\n2,F\n3,F\n4,M\n",
        want(4, "id:integer sex:text", {}, sex=["M", "F", "F", "M"]),
    )
    yield text(
        "true and false by letter",
        "id,paid\n1,T\n2,F\n3,T\n4,T\n",
        want(4, "id:integer paid:boolean", {}, paid=[True, False, True, True]),
    )
    yield text(
        "codes that look like exponents and dates",
        "part,n\n1E5,1\n2E7,2\n3-4,3\n5-6,4\nMAR1,5\nSEP2,6\n",
        want(6, "part:text n:integer", {"n": 21}, part=["1E5", "2E7", "3-4", "5-6", "MAR1", "SEP2"]),
    )
    yield text(
        "telephone numbers and long accounts",
        "who,phone,account\nA,0049 30 1234,12345678901234567890\nB,+44 20 7946,98765432109876543210\nC,01632 960,11112222333344445555\n",
        want(
            3,
            "who:text phone:text account:text",
            {},
            account=["12345678901234567890", "98765432109876543210", "11112222333344445555"],
        ),
    )


def other_cases() -> list[Case]:
    """Every file."""
    groups: tuple[Callable[[], Iterator[Case]], ...] = (
        _scripts, _totals, _books, _comments, _pages, _heads, _blocks, _quotes, _objects, _codes
    )  # fmt: skip
    return [case for group in groups for case in group()]


def archive_without_tables() -> bytes:
    """A zip that holds no table."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("readme.pdf", b"%PDF-1.4 nothing")
        archive.writestr("photo.png", b"\x89PNG\r\n\x1a\n")
    return out.getvalue()
