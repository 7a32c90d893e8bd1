"""Paper: job card and alignment sheet."""

from inclinum.report.pdf import alignment_html, bike_card_html, card_html, pdf

__all__ = ["alignment_html", "bike_card_html", "card_html", "pdf"]
