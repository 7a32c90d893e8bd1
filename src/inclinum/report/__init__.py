"""Paper: job card and alignment sheet."""

from inclinum.report.pdf import alignment_html, card_html, pdf

__all__ = ["alignment_html", "card_html", "pdf"]
