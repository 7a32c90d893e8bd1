"""Paper: job card and alignment sheet."""

from inclinum.report.pdf import alignment_html, alignment_pdf, bike_card_html, card_html, card_pdf, pdf

__all__ = ["alignment_html", "alignment_pdf", "bike_card_html", "card_html", "card_pdf", "pdf"]
