"""Rows fetched from elsewhere: a folder of this machine, an address, a database server, an object store."""

from __future__ import annotations

import dataclasses
import datetime as dt
import re
import shutil
from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass
from decimal import Decimal
from pathlib import Path, PurePosixPath
from typing import Any, assert_never
from urllib.parse import unquote, urljoin, urlsplit, urlunsplit

import httpx
import minio
import psycopg
import pyarrow as pa
import pyarrow.parquet as pq
import pymysql
import pymysql.cursors
import sqlglot
import urllib3
from minio.error import MinioException, S3Error
from pymysql.constants import FIELD_TYPE
from sqlglot import exp
from sqlglot.errors import SqlglotError

from gumption.core.model.origin import (
    Appended,
    FromAddress,
    FromDatabase,
    FromFeed,
    FromFolder,
    FromStore,
    Origin,
    Uploaded,
)
from gumption.intake.errors import UnreadableFile
from gumption.intake.feed import address_of, series_called
from gumption.intake.outside import LeadsInside, addresses_of, only_outside

Progress = Callable[[str, float], None]
_CHUNK = 1 << 20
_BATCH = 50_000
_MOST_TURNS = 5
_SECONDS = 30.0
"""Time in which something has to come."""
_QUERY_SECONDS = 600
"""Time that a database may take for a query."""

_REACH = "Check host, port, user and password."
_ASK = "Check the query: its tables, its columns, and whether this user may read them."
_AGAIN = "Try again; if it stays so, ask who keeps that database."
ADVICE: Mapping[type[Exception], str] = {
    # MariaDB's driver takes a column that is not there for a matter of operation.
    pymysql.err.OperationalError: "Check host, port, user, password and query.",
    psycopg.OperationalError: _REACH,
    **dict.fromkeys((pymysql.err.InterfaceError, psycopg.InterfaceError), _REACH),
    **dict.fromkeys((pymysql.err.ProgrammingError, psycopg.ProgrammingError), _ASK),
    **dict.fromkeys((pymysql.err.DataError, psycopg.DataError), _ASK),
    **dict.fromkeys((pymysql.err.NotSupportedError, psycopg.NotSupportedError), _ASK),
    **dict.fromkeys((pymysql.err.IntegrityError, psycopg.IntegrityError), _AGAIN),
    **dict.fromkeys((pymysql.err.InternalError, psycopg.InternalError), _AGAIN),
    **dict.fromkeys((pymysql.err.DatabaseError, pymysql.err.Error, pymysql.MySQLError, pymysql.err.Warning), _AGAIN),
    **dict.fromkeys((psycopg.DatabaseError, psycopg.Error), _AGAIN),
}
"""What to do, by the class of a driver's error."""


@dataclass(frozen=True)
class Allowed:
    """What the administrator allows."""

    folders: tuple[Path, ...] = ()
    inner_addresses: bool = False
    """Whether addresses inside the network, this machine's among them, may be fetched from."""
    most_bytes: int = 2_000_000_000
    feed: str | None = None
    """The address of the feed of series."""


def fetch(origin: Origin, secret: str | None, folder: Path, allowed: Allowed, progress: Progress) -> tuple[Path, str]:
    """Bring the rows into `folder` as a file; the file and the name it goes by. Raises UnreadableFile."""
    if isinstance(origin, FromFeed):
        # Where it stands was chosen by who serves this, and may well be this machine.
        return _from_feed(origin, folder, allowed, progress)
    with nullcontext() if allowed.inner_addresses else only_outside():
        match origin:
            case FromFolder(path=path):
                return _from_folder(path, folder, allowed)
            case FromAddress(url=url):
                return _from_address(url, secret, folder, allowed, progress)
            case FromDatabase():
                return _from_database(origin, secret or "", folder, allowed, progress)
            case FromStore():
                return _from_store(origin, secret or "", folder, allowed, progress)
            case Uploaded() | Appended():
                raise UnreadableFile("this table", "was not fetched from anywhere.", "Send a newer file in its place.")
            case _:
                assert_never(origin)


# -- folder ------------------------------------------------------------------------------------


def _from_folder(given: str, folder: Path, allowed: Allowed) -> tuple[Path, str]:
    path = Path(given)
    if not allowed.folders:
        raise UnreadableFile(
            given, "no folder of this machine is open for reading.", "Start Gumption with --allow-folder DIR."
        )
    real = path.resolve()
    if not any(real.is_relative_to(f.resolve()) for f in allowed.folders):
        listed = ", ".join(map(str, allowed.folders))
        problem, allowed_in = "it stands outside the folders that may be read.", list(map(str, allowed.folders))
        raise UnreadableFile(given, problem, f"Put it into {listed}.", found=real, accepted=allowed_in)
    if not real.is_file():
        raise UnreadableFile(given, "there is no such file.", "Check its path.")
    target = folder / "fetched"
    # A link costs nothing, however large the file; only where none can be made it is copied.
    try:
        target.hardlink_to(real)
    except OSError:
        shutil.copy(real, target)
    return target, path.name


# -- address -----------------------------------------------------------------------------------


def _inner(given: str) -> UnreadableFile:
    return UnreadableFile(
        given, "this address is inside the network.", "Start Gumption with --allow-inner-addresses if that is meant."
    )


def without_password(url: str) -> tuple[str, str | None]:
    """An address without the user and password that may stand in it, and these as "user:password"."""
    parts = urlsplit(url)
    user, at, host = parts.netloc.rpartition("@")
    return (urlunsplit(parts._replace(netloc=host)), unquote(user)) if at else (url, None)


def _from_address(url: str, secret: str | None, folder: Path, allowed: Allowed, progress: Progress) -> tuple[Path, str]:
    target = folder / "fetched"
    user, _, password = (secret or "").partition(":")
    try:
        begun = _host_of(url)
        with httpx.Client(timeout=_SECONDS, follow_redirects=False, trust_env=False) as client:
            for _ in range(_MOST_TURNS):
                # A password is for the host that it was given for.
                login = httpx.BasicAuth(user, password) if secret and _host_of(url) == begun else None
                with client.stream("GET", url, auth=login) as response:
                    if response.is_redirect:
                        url = urljoin(url, response.headers.get("location", ""))
                        continue
                    if response.status_code != 200:
                        raise UnreadableFile(
                            url,
                            f"the server there answered {response.status_code}.",
                            "Open it in a browser to see why.",
                            found=response.status_code,
                            accepted=["200"],
                        )
                    announced = response.headers.get("content-length", "")
                    _save(
                        response.iter_bytes(_CHUNK),
                        target,
                        allowed,
                        url,
                        int(announced) if announced.isdecimal() else 0,
                        progress,
                    )
                    return target, _name_of(response, url)
    except LeadsInside as error:
        raise _inner(url) from error
    except (httpx.HTTPError, httpx.InvalidURL, ValueError) as error:
        raise UnreadableFile(
            url, "it could not be fetched.", "Check the address and that it can be reached from this machine."
        ) from error
    raise UnreadableFile(url, "it leads from one address to the next without end.", "Give the address it ends at.")


def _host_of(url: str) -> tuple[str, str, int | None]:
    """Scheme, host and port. Raises UnreadableFile for what is no address."""
    try:
        parts = urlsplit(url)
        port = parts.port
    except ValueError as error:
        raise UnreadableFile(url, "this is no address.", "It is like https://example.org/visits.csv.") from error
    if parts.scheme not in ("http", "https") or not parts.hostname:
        raise UnreadableFile(url, "this is no HTTP or HTTPS address.", "It begins with https://.")
    return parts.scheme, parts.hostname, port


def _save(
    chunks: Iterator[bytes], target: Path, allowed: Allowed, given: str, announced: int, progress: Progress
) -> None:
    size = 0
    with target.open("wb") as out:
        for chunk in chunks:
            size += len(chunk)
            if size > allowed.most_bytes:
                raise UnreadableFile(
                    given,
                    f"it is larger than {allowed.most_bytes / 1e9:.3g} GB.",
                    "Fetch less of it, or raise --upload-limit.",
                )
            out.write(chunk)
            progress(f"Fetched {size / 1e6:.1f} MB", min(size / announced, 1.0) if announced else 0.5)


_KINDS = {"text/csv": ".csv", "application/json": ".json", "text/html": ".html", "text/tab-separated-values": ".tsv"}


def _name_of(response: httpx.Response, url: str) -> str:
    told = re.search(r'filename="?([^";/\\]+)', response.headers.get("content-disposition", ""))
    name = told[1] if told else PurePosixPath(urlsplit(url).path).name or urlsplit(url).hostname or "fetched"
    kind = response.headers.get("content-type", "").split(";")[0].strip()
    return name if "." in name else name + _KINDS.get(kind, "")


# -- feed --------------------------------------------------------------------------------------


def feed_of(allowed: Allowed) -> str:
    """The feed's address. Raises UnreadableFile where there is none."""
    if allowed.feed is None:
        raise UnreadableFile("the feed", "there is no feed of series here.", "Start Gumption with --feed ADDRESS.")
    return allowed.feed


def _from_feed(origin: FromFeed, folder: Path, allowed: Allowed, progress: Progress) -> tuple[Path, str]:
    feed = feed_of(allowed)
    series = series_called(origin.code, feed)
    chosen = dataclasses.replace(allowed, inner_addresses=True)
    path, _ = _from_address(address_of(series.code, feed, origin.begin), None, folder, chosen, progress)
    return path, f"{series.code}.csv"


# -- database ----------------------------------------------------------------------------------


def _select(origin: FromDatabase) -> str:
    """The one SELECT to run. Raises UnreadableFile for anything that is none."""
    dialect = "mysql" if origin.system == "mysql" else "postgres"
    if re.fullmatch(r"[\w$]+(\.[\w$]+)?", origin.query.strip()):
        table = exp.to_table(origin.query.strip(), dialect=dialect)
        return exp.select("*").from_(table).sql(dialect=dialect, identify=True)
    refused = UnreadableFile(origin.name, "only one SELECT can be fetched.", "Give a table's name, or a single SELECT.")
    try:
        trees = sqlglot.parse(origin.query, dialect=dialect)
    except (SqlglotError, RecursionError) as error:
        raise refused from error
    if len(trees) != 1 or not isinstance(trees[0], exp.Query) or trees[0].find(exp.Into, exp.Lock, exp.DML, exp.DDL):
        raise refused
    return origin.query.strip().rstrip(";")


@contextmanager
def _mysql(
    origin: FromDatabase, password: str, sql: str, _allowed: Allowed
) -> Iterator[tuple[list[tuple[str, pa.DataType]], Iterator[Sequence[Sequence[Any]]]]]:
    connection = pymysql.connect(
        host=origin.host,
        port=origin.port,
        user=origin.user,
        password=password,
        database=origin.database,
        charset="utf8mb4",
        connect_timeout=10,
        read_timeout=_QUERY_SECONDS,
        write_timeout=_SECONDS,
        cursorclass=pymysql.cursors.SSCursor,
    )
    try:
        with connection.cursor() as cursor:
            cursor.execute("SET SESSION TRANSACTION READ ONLY")
            cursor.execute("START TRANSACTION READ ONLY")
            cursor.execute(sql)
            fields = [(str(d[0]), _MYSQL.get(int(d[1]), pa.string())) for d in cursor.description or ()]
            decimals = {
                i: int(d[5] or 0) for i, d in enumerate(cursor.description or ()) if int(d[1]) in _MYSQL_DECIMALS
            }
            fields = [(n, pa.decimal128(38, decimals[i]) if i in decimals else t) for i, (n, t) in enumerate(fields)]
            yield fields, iter(lambda: cursor.fetchmany(_BATCH), ())
    finally:
        connection.close()


_MYSQL_DECIMALS = (FIELD_TYPE.DECIMAL, FIELD_TYPE.NEWDECIMAL)
_MYSQL: dict[int, pa.DataType] = {
    **dict.fromkeys(
        (FIELD_TYPE.TINY, FIELD_TYPE.SHORT, FIELD_TYPE.LONG, FIELD_TYPE.LONGLONG, FIELD_TYPE.INT24, FIELD_TYPE.YEAR),
        pa.int64(),
    ),
    **dict.fromkeys((FIELD_TYPE.FLOAT, FIELD_TYPE.DOUBLE), pa.float64()),
    FIELD_TYPE.DATE: pa.date32(),
    **dict.fromkeys((FIELD_TYPE.DATETIME, FIELD_TYPE.TIMESTAMP), pa.timestamp("us")),
    FIELD_TYPE.TIME: pa.duration("us"),
}


@contextmanager
def _postgresql(
    origin: FromDatabase, password: str, sql: str, allowed: Allowed
) -> Iterator[tuple[list[tuple[str, pa.DataType]], Iterator[Sequence[Sequence[Any]]]]]:
    where: dict[str, Any] = {}
    if not allowed.inner_addresses:
        # This driver connects by itself, unseen: it is given the address that was looked at.
        where["hostaddr"] = addresses_of(origin.host, origin.port)[0]
    with (
        psycopg.connect(
            host=origin.host,
            **where,
            port=origin.port,
            user=origin.user,
            password=password,
            dbname=origin.database,
            connect_timeout=10,
            options=f"-c default_transaction_read_only=on -c statement_timeout={_QUERY_SECONDS}s",
            tcp_user_timeout=int(_SECONDS * 1000),
        ) as connection,
        connection.cursor(name="gumption") as cursor,
    ):
        cursor.execute(sql.encode())
        rows = cursor.fetchmany(_BATCH)
        fields = [(d.name, _POSTGRESQL.get(d.type_code, pa.string())) for d in cursor.description or ()]
        scales = {i: d.scale for i, d in enumerate(cursor.description or ()) if d.type_code == 1700}
        fields = [(n, _numeric(scales[i]) if i in scales else t) for i, (n, t) in enumerate(fields)]

        def batches() -> Iterator[Sequence[Sequence[Any]]]:
            batch = rows
            while batch:
                yield batch
                batch = cursor.fetchmany(_BATCH)

        yield fields, batches()


def _numeric(scale: int | None) -> pa.DataType:
    """A numeric without a declared scale may have any, so that it is read as a float."""
    return pa.decimal128(38, scale) if scale is not None and scale <= 20 else pa.float64()


_POSTGRESQL: dict[int, pa.DataType] = {
    16: pa.bool_(),
    **dict.fromkeys((20, 21, 23), pa.int64()),
    **dict.fromkeys((700, 701), pa.float64()),
    1082: pa.date32(),
    1083: pa.time64("us"),
    1114: pa.timestamp("us"),
    1184: pa.timestamp("us", tz="UTC"),
    1186: pa.duration("us"),
}
"""Types of PostgreSQL by their number in pg_type."""


def _from_database(
    origin: FromDatabase, password: str, folder: Path, allowed: Allowed, progress: Progress
) -> tuple[Path, str]:
    sql = _select(origin)
    where = f"{origin.name} ({origin.host}:{origin.port})"
    if re.search(r"[/\\@,\s]", origin.host) or not origin.host:
        raise UnreadableFile(where, "this is no host.", "Give its name, such as data.example.org.")
    target = folder / "fetched.parquet"
    read = _mysql if origin.system == "mysql" else _postgresql
    try:
        with read(origin, password, sql, allowed) as (fields, batches):
            schema = pa.schema([pa.field(n, t) for n, t in fields])
            total = 0
            with pq.ParquetWriter(target, _storable(schema)) as writer:
                for batch in batches:
                    columns = list(zip(*batch, strict=True))
                    arrays = [_array(values, field.type) for values, field in zip(columns, schema, strict=True)]
                    writer.write_table(pa.table(arrays, schema=_storable(schema)))
                    total += len(batch)
                    progress(f"Fetched {total:,} rows", 0.5)
                    if target.stat().st_size > allowed.most_bytes:
                        raise UnreadableFile(
                            where, "it gives more than may be fetched.", "Select less, or raise --upload-limit."
                        )
    except LeadsInside as error:
        raise _inner(where) from error
    except (pymysql.MySQLError, psycopg.Error) as error:
        told = str(error.args[-1] if error.args else error).strip().splitlines()
        reason = told[0] if told else "it did not answer"
        advice = next(ADVICE[c] for c in type(error).__mro__ if c in ADVICE)
        raise UnreadableFile(where, f"the database said: {reason}.", advice) from error
    except (pa.ArrowException, OSError) as error:
        raise UnreadableFile(where, "its rows could not be taken over.", "Select plain columns only.") from error
    return target, f"{origin.name}.parquet"


def _storable(schema: pa.Schema) -> pa.Schema:
    """Parquet knows no durations; they are kept as seconds."""
    return pa.schema([pa.field(f.name, pa.float64() if pa.types.is_duration(f.type) else f.type) for f in schema])


def _array(values: Sequence[Any], kind: pa.DataType) -> pa.Array:
    if pa.types.is_duration(kind):
        return pa.array([None if v is None else v.total_seconds() for v in values], pa.float64())
    if pa.types.is_string(kind):
        return pa.array(
            [None if v is None else v.decode("utf-8", "replace") if isinstance(v, bytes) else str(v) for v in values],
            kind,
        )
    if pa.types.is_floating(kind):
        return pa.array([None if v is None else float(v) for v in values], kind)
    if pa.types.is_decimal(kind):
        return pa.array([None if v is None else Decimal(v) for v in values], kind)
    if pa.types.is_integer(kind):
        return pa.array([None if v is None else int(v) for v in values], kind)
    return pa.array([v if isinstance(v, (dt.date, dt.time, dt.datetime, bool)) else None for v in values], kind)


# -- object store ------------------------------------------------------------------------------


def _from_store(origin: FromStore, secret: str, folder: Path, allowed: Allowed, progress: Progress) -> tuple[Path, str]:
    given = f"{origin.bucket}/{origin.key}"
    endpoint = origin.endpoint if "//" in origin.endpoint else f"https://{origin.endpoint}"
    if "@" in endpoint:
        raise UnreadableFile(given, "there is a password in the store's address.", "Give the keys in their own fields.")
    _host_of(endpoint)
    parts = urlsplit(endpoint)
    client = minio.Minio(
        parts.netloc,
        access_key=origin.access_key,
        secret_key=secret,
        secure=parts.scheme == "https",
        region="us-east-1",
        http_client=urllib3.PoolManager(timeout=_SECONDS, retries=urllib3.Retry(1)),
    )
    target = folder / "fetched"
    try:
        response = client.get_object(origin.bucket, origin.key)
        try:
            announced = int(response.headers.get("content-length", 0))
            _save(response.stream(_CHUNK), target, allowed, given, announced, progress)
        finally:
            response.close()
            response.release_conn()
    except LeadsInside as error:
        raise _inner(origin.endpoint) from error
    except S3Error as error:
        raise UnreadableFile(
            given, f"the store said: {error.message or error.code}.", "Check bucket, key and access key."
        ) from error
    except (urllib3.exceptions.HTTPError, MinioException, ValueError) as error:
        raise UnreadableFile(given, "the store could not be reached.", "Check its address.") from error
    return target, PurePosixPath(origin.key).name
