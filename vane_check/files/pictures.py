"""Pictures that a shop brings for its papers: what can be printed, and how large it lies."""

from io import BytesIO

from PIL import Image, UnidentifiedImageError

PIXELS_AT_MOST = 4000
"""A side; more is finer than any printer and costs memory."""
KINDS = {"PNG": "image/png", "JPEG": "image/jpeg"}


def load() -> None:
    """Read what pictures need from the disk now."""
    Image.preinit()


def picture_kind(picture: bytes) -> str | None:
    """The media type of a PNG or JPEG that can be printed; None for anything else.

    >>> picture_kind(b"GIF89a") is None
    True
    """
    try:
        with Image.open(BytesIO(picture), formats=list(KINDS)) as result:
            if max(result.size) > PIXELS_AT_MOST:
                return None
            result.load()
            return KINDS[str(result.format)]
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        return None
