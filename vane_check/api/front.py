"""The built front end, held in memory: served without a disk, a thread or a second compression."""

import gzip
import json
import mimetypes
from pathlib import Path
from typing import NamedTuple

from starlette.requests import Request
from starlette.responses import Response

mimetypes.add_type("application/manifest+json", ".webmanifest")
PACKED_FROM = 1000
"""Bytes from which packing is worth it."""
DESKS = "desks.json"
"""What the build says each desk needs, by the first word of its address."""
FIRST_DESK = "counter"
OTHER_NAMES = {"goods/lists": "import"}
"""Desks whose address begins like another's."""


class Held(NamedTuple):
    """A file and how it is sent."""

    body: bytes
    packed: bytes | None
    media_type: str
    keep: str


class Front:
    """Every file of the build, read once."""

    def __init__(self, folder: Path) -> None:
        self.files = {
            path.relative_to(folder).as_posix(): _read_file(path, folder)
            for path in sorted(folder.rglob("*"))
            if path.is_file()
        }
        self.pages = self._pages()

    def _pages(self) -> dict[str, Held]:
        """The one page by the desk it opens with: it asks for that desk's scripts at once, not when it has read the others."""
        page = self.files.get("index.html")
        desks = self.files.get(DESKS)
        if page is None or desks is None:
            return {}
        pages = {}
        for desk, scripts in json.loads(desks.body).items():
            links = "".join(f'<link rel="modulepreload" crossorigin href="/{script}">' for script in scripts)
            body = page.body.replace(b"</head>", f"{links}</head>".encode())
            pages[desk] = page._replace(body=body, packed=gzip.compress(body, 9))
        return pages

    def answer(self, path: str, request: Request) -> Response:
        """A file by its path, else the one page: which desk it shows is its own affair."""
        desk = path.split("/", 1)[0] or FIRST_DESK
        held = self.files.get(path) or self.pages.get(OTHER_NAMES.get(path, desk)) or self.files["index.html"]
        headers = {"Cache-Control": held.keep, "Vary": "Accept-Encoding"}
        if held.packed is not None and "gzip" in request.headers.get("accept-encoding", ""):
            return Response(held.packed, media_type=held.media_type, headers={**headers, "Content-Encoding": "gzip"})
        return Response(held.body, media_type=held.media_type, headers=headers)


def _read_file(path: Path, folder: Path) -> Held:
    body = path.read_bytes()
    media_type = mimetypes.guess_type(path.name)[0] or "application/octet-stream"
    named_by_content = path.parent != folder and path.parts[len(folder.parts)] == "assets"
    packs = len(body) >= PACKED_FROM and not media_type.startswith(("image/png", "font/"))
    return Held(
        body,
        gzip.compress(body, 9) if packs else None,
        media_type,
        "public, max-age=31536000, immutable" if named_by_content else "no-cache",
    )
