"""A paper as a page to print, and as PDF; both from one template and one style sheet."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files
from threading import Lock
from typing import Literal, get_args

import segno
from jinja2 import Environment, PackageLoader
from markupsafe import Markup

from .paper import Paper

Size = Literal["a4", "letter"]
SIZES: tuple[str, ...] = get_args(Size)
#: One PDF at a time: it takes the processor for itself.
_ONE = Lock()


@lru_cache(maxsize=1)
def _environment() -> Environment:
    return Environment(
        loader=PackageLoader("velvet_hand.reports"),
        autoescape=True,
        trim_blocks=True,
        lstrip_blocks=True,
    )


def css() -> str:
    """The style sheet of all papers."""
    return (files("velvet_hand.reports") / "templates" / "paper.css").read_text()


def html(paper: Paper, address: str, size: Size, sheet_address: str) -> str:
    """The page.

    Parameters
    ----------
    address
        Where the set-up is found again; it stands on the paper as a QR code and in words.
    sheet_address
        Where the style sheet is.
    """
    code = segno.make(address, error="m").svg_inline(scale=3, border=2, omitsize=True)
    page = _environment().get_template("paper.html.j2")
    return page.render(
        paper=paper, address=address, code=Markup(code), picture=Markup(paper.picture), size=size, css=sheet_address
    )  # fmt: skip


def _nothing_else(url: str, *_more: object, **_named: object) -> dict[str, object]:
    raise ValueError(f"a paper fetches nothing: {url}")


def pdf(paper: Paper, address: str, size: Size) -> bytes:
    """The same as PDF. Nothing is fetched from anywhere."""
    from weasyprint import CSS, HTML  # a second of a start, so only when a paper is made

    page = html(paper, address, size, "").replace('<link rel="stylesheet" href="">', "")
    with _ONE:
        made = HTML(string=page, url_fetcher=_nothing_else).write_pdf(
            stylesheets=[CSS(string=css())], pdf_variant="pdf/ua-1"
        )
    assert isinstance(made, bytes)
    return made
