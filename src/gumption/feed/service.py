"""The feed's HTTP service: a list of its series, and each as CSV."""

from __future__ import annotations

import datetime as dt
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from difflib import get_close_matches
from typing import Annotated

import uvicorn
from fastapi import FastAPI, Query
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel

from gumption.feed.series import BEGIN, SERIES, Kind, Series, series_of


class SeriesTold(BaseModel):
    """What a series is of."""

    code: str
    name: str
    unit: str
    kind: Kind
    first: dt.date


def create_feed() -> FastAPI:
    """The service. Every series goes up to the day on which it is asked for."""
    app = FastAPI(title="Series by day, made up", docs_url=None, redoc_url=None)

    @app.get("/series")
    def get_list(about: Annotated[str, Query(max_length=200)] = "") -> list[SeriesTold]:
        """The series whose code or name holds each of the words."""
        words = about.lower().split()
        return [_told(s) for s in SERIES if all(w in f"{s.code} {s.name} {s.kind}".lower() for w in words)]

    @app.get("/series/{code}", response_model=None)
    def get_series(code: str, begin: dt.date | None = None, end: dt.date | None = None) -> Response:
        """A series as CSV of days and values, between two days."""
        series = series_of(code)
        if series is None:
            near = get_close_matches(code.strip().upper(), [s.code for s in SERIES], 3, 0.5)
            return JSONResponse({"problem": f"There is no series {code}.", "near": near}, 404)
        days = series.days(dt.date.today())
        rows = zip(days, series.values(days), strict=True)
        told = [f"{d},{v:.{series.digits}f}" for d, v in rows if (begin or BEGIN) <= d <= (end or d)]
        return Response(
            "\n".join([f"date,{series.code}", *told, ""]),
            media_type="text/csv",
            headers={"Content-Disposition": f'attachment; filename="{series.code}.csv"'},
        )

    return app


def _told(series: Series) -> SeriesTold:
    return SeriesTold(code=series.code, name=series.name, unit=series.unit, kind=series.kind, first=BEGIN)


def _server(port: int) -> uvicorn.Server:
    return uvicorn.Server(
        uvicorn.Config(create_feed(), host="127.0.0.1", port=port, log_config=None, access_log=False, ws="none")
    )


def serve_feed(port: int) -> None:
    """Serve on the loopback until interrupted."""
    _server(port).run()


@contextmanager
def feed_beside() -> Iterator[str]:
    """While the block runs, the service stands on a free port of the loopback; its address."""
    server = _server(0)
    config = server.config
    listening = config.bind_socket()
    thread = threading.Thread(target=server.run, args=([listening],), name="feed", daemon=True)
    thread.start()
    try:
        yield f"http://127.0.0.1:{listening.getsockname()[1]}"
    finally:
        server.should_exit = True
        thread.join(5)
        listening.close()
