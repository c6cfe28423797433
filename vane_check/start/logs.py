"""Logs: plain lines for a terminal, or one JSON object a line (`VANE_LOG=json`) for whatever gathers them.

What is logged names places in the program and kinds of faults, never what was typed: no message is made from a request.
"""

import json
import logging
import os
from datetime import UTC, datetime
from typing import Any


class JsonLine(logging.Formatter):
    """One JSON object a line: when, how grave, who says it, what, and where an error arose, without its own words."""

    def format(self, record: logging.LogRecord) -> str:
        """A record as a line."""
        body: dict[str, Any] = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(), "logger": record.name, "message": record.getMessage(),
            "process": record.process,
        }  # fmt: skip
        if record.exc_info and record.exc_info[0] is not None:
            body["error"] = record.exc_info[0].__qualname__
            body["places"] = _places(record.exc_info[2])
        return json.dumps(body, ensure_ascii=False)


def _places(trace: Any) -> list[str]:
    result = []
    while trace is not None:
        code = trace.tb_frame.f_code
        result.append(f"{code.co_filename}:{trace.tb_lineno} {code.co_name}")
        trace = trace.tb_next
    return result


def config(level: str) -> dict[str, Any] | None:
    """Python's logging settings for JSON lines; None for plain ones."""
    if os.environ.get("VANE_LOG", "").lower() != "json":
        return None
    to_lines = {"handlers": ["lines"], "level": level.upper(), "propagate": False}
    return {
        "version": 1, "disable_existing_loggers": False,
        "formatters": {"json": {"()": f"{__name__}.JsonLine"}},
        "handlers": {"lines": {"class": "logging.StreamHandler", "formatter": "json", "stream": "ext://sys.stderr"}},
        "loggers": {name: to_lines for name in ("uvicorn", "uvicorn.error", "vane_check")},
    }  # fmt: skip
