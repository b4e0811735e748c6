"""The application as the web server's workers have it."""

from __future__ import annotations

import gc
import os

from flask_openapi3 import OpenAPI
from werkzeug.middleware.proxy_fix import ProxyFix

from hastatus.api.app import create_app
from hastatus.api.http.security import LOOPBACK
from hastatus.server.network import Network, hosts_of
from hastatus.store.database import make_engine
from hastatus.store.films import Folder

PROXIES = "HASTATUS_PROXIES"
"""How many proxies of the operator's own stand before the server. Only as many are believed where
they say whose request it is: guesses at passwords are counted by address."""


def create(url: str, door: Network | None = None, films: Folder | None = None) -> OpenAPI:
    """The application on the database at `url`, ready to be forked.

    door: to the club's network, which stands before the server as one proxy more. films: where the
    files of films are; None: none is taken.
    """
    app = create_app(make_engine(url), films)
    app.config["HOSTS"] = [*LOOPBACK, *hosts_of(os.environ), *(door.names if door else ())]
    app.config["AUTHORITY"] = door.authority if door else None
    proxies = app.config["PROXIES"] = int(os.environ.get(PROXIES, "0")) + (door is not None)
    if proxies:
        app.wsgi_app = ProxyFix(  # type: ignore[method-assign]
            app.wsgi_app, x_for=proxies, x_proto=proxies, x_host=proxies
        )
    # Plans kept for running rounds are many small objects: a full collection over them would make
    # a request wait for a tenth of a second. What is here now stays; cycles are collected seldom.
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 50, 100)
    return app
