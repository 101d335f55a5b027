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
        "a first column called by a hash",
        "#,booked,class,fee\n1,2026-01-05,Pottery,30\n2,2026-01-06,Guitar,25\n3,2026-01-09,Piano,28\n",
        want(3, "#:integer booked:date class:text fee:integer", {"fee": 83}),
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
        "a code with a letter in its middle",
        "number,department\n" + "".join(f"{1010 + 10 * i},D{i}\n" for i in range(9)) + "10X1,Old store\n",
        want(10, "number:text department:text"),
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


def _further() -> Iterator[Case]:
    """More of all of these, as their makers write them."""
    yield text(
        "ukrainian stock",
        "Назва;Кількість;Ціна\nЦвяхи;120;1,50\nФарба;15;89,90\nДошка;40;35,00\nРазом;175;\n",
        want(3, "Назва:text Кількість:integer Ціна:decimal", {"Кількість": 175}),
        encoding="cp1251",
    )
    yield text(
        "bulgarian",
        "Име,Град,Сума\nИван,София,100\nМария,Варна,250\nПетър,Русе,75\n",
        want(3, "Име:text Град:text Сума:integer", {"Сума": 425}),
        encoding="cp1251",
    )
    yield text(
        "japanese tabs",
        "氏名\t部署\t時間\n山田太郎\t営業\t8\n佐藤花子\t開発\t7\n鈴木一郎\t総務\t6\n",
        want(3, "氏名:text 部署:text 時間:integer", {"時間": 21}),
        encoding="cp932",
        file="t.tsv",
    )
    yield text(
        "hungarian",
        "Név;Város;Összeg\nErdős Pál;Győr;1200\nSzabó Éva;Pécs;800\nŐri Zsófia;Szeged;950\nÖsszesen;;2950\n",
        want(3, "Név:text Város:text Összeg:integer", {"Összeg": 2950}),
        encoding="cp1250",
    )
    yield text(
        "arabic",
        "المدينة,العدد\nالقاهرة,12\nدمشق,30\nبيروت,8\n",
        want(3, "المدينة:text العدد:integer", {"العدد": 50}),
        encoding="cp1256",
    )
    yield text(
        "thai",
        "เมือง,จำนวน\nกรุงเทพ,12\nเชียงใหม่,30\nภูเก็ต,8\n",
        want(3, "เมือง:text จำนวน:integer", {"จำนวน": 50}),
        encoding="cp874",
    )
    yield text(
        "swedish dos",
        "Ort;Antal\nMalmö;3\nVästerås;4\nÖrebro;9\n",
        want(3, "Ort:text Antal:integer", {"Antal": 16}, Ort=["Malmö", "Västerås", "Örebro"]),
        encoding="cp850",
    )
    yield text(
        "norwegian statement",
        "Dato;Beskrivelse;Beløp;Saldo\n03.03.2025;Husleie;-9500,00;12500,50\n04.03.2025;Lønn;32000,00;44500,50\n;Utgående saldo;;44500,50\n",
        want(2, "Dato:date Beskrivelse:text Beløp:decimal", {"Beløp": 22500}),
        encoding="cp1252",
    )
    yield text(
        "us bank",
        'Account Summary\nBeginning balance as of 03/01/2025,"1,200.00"\nTotal credits,"2,500.00"\nTotal debits,"-812.45"\nEnding balance as of 03/31/2025,"2,887.55"\n\nDate,Description,Amount,Running Bal.\n03/03/2025,PAYROLL,"2,500.00","3,700.00"\n03/14/2025,RENT,-650.00,"3,050.00"\n03/20/2025,GROCER,-162.45,"2,887.55"\n',
        want(3, "Date:date Description:text Amount:decimal", {"Amount": 1687.55}),
    )
    yield text(
        "paypal-like",
        'Report period: 01 Mar 2025 - 31 Mar 2025\n\n"Date","Name","Gross","Fee","Net"\n"03/03/2025","Ada Bell","20.00","-0.88","19.12"\n"15/03/2025","Bo Dent","35.50","-1.34","34.16"\n"Total","","55.50","-2.22","53.28"\n',
        want(2, "Date:date Name:text Gross:decimal", {"Gross": 55.5}),
    )
    yield text(
        "logger header",
        "Logger: A17\nSerial No.: 0042\nSite: Alder weir\nInterval (min): 15\n\nDate Time,Level (m),Battery (V)\n2025-03-01 00:00,0.52,12.6\n2025-03-01 00:15,0.53,12.6\n2025-03-01 00:30,0.55,12.5\n",
        want(3, "Date·Time:timestamp", {"Level·(m)": 1.6}),
    )
    yield text(
        "comment with commas inside",
        "date,flow\n2025-03-01,1.5\n# maintenance, pump off\n2025-03-02,0.0\n2025-03-03,2.5\n",
        want(3, "date:date flow:decimal", {"flow": 4}),
    )
    yield text(
        "double hash block",
        "## experiment: 12\n## operator: ada\n# col1 = time in s\n# col2 = volts\ntime,volts\n0,1.5\n1,1.25\n2,1.0\n",
        want(3, "time:integer volts:decimal", {"volts": 3.75}),
    )
    yield text(
        "head after comment only",
        "# id,name,score\n1,Ada,9.5\n2,Bo,7.25\n3,Cy,8.0\n",
        want(3, "id:integer name:text score:decimal", {"score": 24.75}),
    )
    yield text(
        "page footer lines",
        "item,qty\nA,1\nB,2\nPage 1 of 3\nitem,qty\nC,3\nD,4\nPage 2 of 3\nitem,qty\nE,5\nPage 3 of 3\n",
        want(5, "item:text qty:integer", {"qty": 15}),
    )
    yield text(
        "form feed report",
        "SALES BY REP\nREP,ORDERS\nADA,4\nBO,7\n\x0cSALES BY REP\nREP,ORDERS\nCY,2\nDI,5\n",
        want(4, "REP:text ORDERS:integer", {"ORDERS": 18}),
    )
    yield text(
        "printed ledger",
        "General ledger                         01/04/2025   Page: 1\n\nDate        Account   Debit     Credit\n----------  -------   -------   -------\n03/03/2025  4000         0.00    120.00\n05/03/2025  5100        45.50      0.00\n\nGeneral ledger                         01/04/2025   Page: 2\n\nDate        Account   Debit     Credit\n----------  -------   -------   -------\n21/03/2025  5200        12.00      0.00\n",
        want(3, "Date:date Debit:decimal", {"Debit": 57.5, "Credit": 120}),
        file="ledger.txt",
    )
    yield _sheet(
        "three-line sheet head",
        [
            ["Sales 2025"],
            [None, "Q1", None, "Q2", None],
            [None, "Jan", "Feb", "Apr", "May"],
            ["rep", "units", "units", "units", "units"],
            ["Ada", 1, 2, 3, 4],
            ["Bo", 5, 6, 7, 8],
            ["Cy", 2, 2, 2, 2],
        ],
        want(3, "rep:text Q1·Jan·units:integer", {"Q2·May·units": 14}),
    )
    yield _sheet(
        "invoice with terms",
        [
            ["Mill & Son Ltd", None, None, None, "INVOICE"],
            ["12 River Road", None, None, "Invoice no", "2025-118"],
            ["Alder AB1 2CD", None, None, "Date", "05/03/2025"],
            ["Tel 01632 960000", None, None, "Due", "04/04/2025"],
            [],
            ["To:", "Brackenfold Vets"],
            [],
            ["Code", "Description", "Qty", "Unit", "Amount"],
            ["P1", "Gauze", 10, 1.2, 12],
            ["P2", "Gloves", 5, 4, 20],
            ["P3", "Lamp", 1, 35, 35],
            [],
            [None, None, None, "Net", 67],
            [None, None, None, "VAT", 13.4],
            [None, None, None, "Total", 80.4],
            [],
            ["Payment within 30 days"],
        ],
        want(3, "Code:text Description:text Qty:integer Amount:integer", {"Amount": 67}),
    )
    yield _sheet(
        "roster form",
        [
            ["Rota for week", "10"],
            ["Manager", "Ada Bell"],
            ["Site", "Millbeck"],
            [],
            ["Name", "Mon", "Tue", "Wed"],
            ["Bo", "early", "late", "off"],
            ["Cy", "late", "off", "early"],
            ["Di", "off", "early", "late"],
        ],
        want(3, "Name:text Mon:text Tue:text Wed:text"),
    )
    yield text(
        "inch marks all over",
        'sku,desc,stock\n1,4" pipe,10\n2,6" pipe,20\n3,2" valve,30\n4,"8"" flange",40\n',
        want(
            4,
            "sku:integer desc:text stock:integer",
            {"stock": 100},
            desc=['4" pipe', '6" pipe', '2" valve', '8" flange'],
        ),
    )
    yield text(
        "quote then comma names",
        'name,city\n"Bell, Ada",Alder\nDent "Bo",Birch\n"Oak, Cy", Cedar\n',
        want(3, "name:text city:text", {}, name=["Bell, Ada", 'Dent "Bo"', "Oak, Cy"]),
    )
    yield Case(
        "records in data.items",
        "x.json",
        json.dumps(
            {
                "meta": {"page": 1},
                "data": {
                    "items": [
                        {"id": 1, "tags": [{"k": "a", "v": 1}, {"k": "b", "v": 2}]},
                        {"id": 2, "tags": [{"k": "a", "v": 3}]},
                    ]
                },
            }
        ).encode(),
        (want(2, "id:integer"), want(3, "k:text v:integer", {"v": 6})),
    )
    yield Case(
        "dict of lists of dicts",
        "y.json",
        json.dumps(
            {"2024": [{"m": 1, "v": 2}, {"m": 2, "v": 3}], "2025": [{"m": 1, "v": 4}, {"m": 2, "v": 5}]}
        ).encode(),
        (want(2, "m:integer v:integer", {"v": 5}), want(2, "m:integer v:integer", {"v": 9})),
    )
    yield Case(
        "single object",
        "one.json",
        json.dumps({"name": "Ada", "address": {"town": "Alder", "geo": {"lat": 52.1}}}).encode(),
        (want(1, "name:text address_town:text"),),
    )
    yield Case(
        "ndjson odd line",
        "z.jsonl",
        b'{"a":1,"b":{"c":{"d":2}}}\n{"a":2,"b":{"c":{"d":3}}}\nnot json\n{"a":3}\n{"a":4}\n{"a":5}\n{"a":6}\n',
        (want(6, "a:integer b_c_d:integer", {"a": 21, "b_c_d": 5}),),
    )
    yield text("T F N column", "id,ok\n1,T\n2,F\n3,N\n4,T\n5,F\n6,N\n", want(6, "id:integer ok:text"))
    yield text("Y N with blanks", "id,ok\n1,Y\n2,\n3,N\n4,Y\n5,N\n", want(5, "id:integer ok:boolean"))
    yield text("grade letters", "id,grade\n1,A\n2,F\n3,B\n4,F\n5,C\n", want(5, "id:integer grade:text"))
    yield text(
        "dutch totals",
        "Afdeling;Uren\nInkoop;12\nVerkoop;20\nTotaal generaal;32\n",
        want(2, "Afdeling:text Uren:integer", {"Uren": 32}),
    )
    yield text(
        "french subtotals",
        "Rayon;Produit;Ventes\nFrais;Lait;10\nFrais;Beurre;5\nSous-total Frais;;15\nSec;Riz;7\nSous-total Sec;;7\nTOTAL GÉNÉRAL;;22\n",
        want(3, "Rayon:text Produit:text Ventes:integer", {"Ventes": 22}),
    )
    yield text(
        "chinese totals", "部门,人数\n销售,12\n研发,30\n合计,42\n", want(2, "部门:text 人数:integer", {"人数": 42})
    )
    yield text(
        "spanish balance",
        "Fecha;Concepto;Importe;Saldo\n03/03/2025;Alquiler;-650,00;350,00\n14/03/2025;Nómina;1.500,00;1.850,00\nSaldo final;;;1.850,00\n",
        want(2, "Fecha:date Concepto:text Importe:decimal", {"Importe": 850}),
        encoding="cp1252",
    )


def other_cases() -> list[Case]:
    """Every file."""
    groups: tuple[Callable[[], Iterator[Case]], ...] = (
        _scripts, _totals, _books, _comments, _pages, _heads, _blocks, _quotes, _objects, _codes, _further
    )  # fmt: skip
    return [case for group in groups for case in group()]


def archive_without_tables() -> bytes:
    """A zip that holds no table."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("readme.pdf", b"%PDF-1.4 nothing")
        archive.writestr("photo.png", b"\x89PNG\r\n\x1a\n")
    return out.getvalue()
