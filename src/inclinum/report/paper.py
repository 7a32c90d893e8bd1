"""A page as PDF. Loading the page renderer takes a second, so only who prints imports this."""

from pathlib import Path

from weasyprint import HTML
from weasyprint.urls import URLFetcher, URLFetcherResponse

from inclinum.core.document.errors import DomainError

HERE = "file:///paper/"
# Held in memory: the account that serves may not be able to read the folder the program was started from.
_fonts = {p.name: p.read_bytes() for p in (Path(__file__).parent / "fonts").glob("*.ttf")}


class OurFonts(URLFetcher):
    """Gives our fonts and nothing else: what people type can name no file and no address."""

    def fetch(self, url: str, headers: object = None) -> URLFetcherResponse:
        """One of our fonts. Raises ValueError for anything else."""
        name = url.removeprefix(f"{HERE}fonts/")
        if name not in _fonts:
            raise DomainError(f"{url} is none of ours")
        return URLFetcherResponse(url, _fonts[name], {"Content-Type": "font/ttf"})


def rendered(html: str) -> bytes:
    """A page as PDF; nothing comes from the disk or the network."""
    document = HTML(string=html, base_url=HERE, url_fetcher=OurFonts()).write_pdf()
    assert document is not None
    return document
