"""The HTTP server on loopback."""

import os
from pathlib import Path
from types import FrameType

import uvicorn
from uvicorn.config import LOGGING_CONFIG

from ..api.app import make_app
from ..records.events import PATIENCE_SECONDS
from . import logs
from .connection import Line

GRACE_SECONDS = 3
WAITING_AT_MOST = 2048


def proxies() -> str:
    """The addresses of proxies whose word on where a request comes from is taken (`VANE_PROXIES`, separated by commas). By
    itself nobody's: whoever reaches the server could give any address, and try PINs from each without a wait."""
    return os.environ.get("VANE_PROXIES", "").strip()


class Server(uvicorn.Server):
    """Uvicorn that tells open screens before it goes, so that nothing hangs on a live stream."""

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """First signal: close the streams and finish what runs."""
        self.config.app.state.announcements.close()  # type: ignore[union-attr]
        super().handle_exit(sig, frame)


def server_on(
    url: str,
    port: int,
    log_level: str = "warning",
    patience_seconds: float = PATIENCE_SECONDS,
    set_up_code: str | None = None,
    records_folder: Path | None = None,
) -> Server:
    """A server for a migrated database, not yet running. `url` is the application's, who owns nothing."""
    app = make_app(url, patience_seconds=patience_seconds, set_up_code=set_up_code, records_folder=records_folder)
    config = uvicorn.Config(
        app,
        log_config=logs.config(log_level) or LOGGING_CONFIG,
        host="127.0.0.1",
        port=port,
        log_level=log_level,
        http=Line,
        ws="none",
        access_log=False,
        server_header=False,
        proxy_headers=bool(proxies()),
        forwarded_allow_ips=proxies(),
        timeout_graceful_shutdown=GRACE_SECONDS,
        backlog=WAITING_AT_MOST,
    )
    return Server(config)
