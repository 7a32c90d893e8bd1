"""Paper: job card, alignment sheet, quotation, labels, hand-over sheet."""

from inclinum.report.cards import alignment_html, alignment_pdf, bike_card_html, card_html, card_pdf
from inclinum.report.pages import pdf
from inclinum.report.papers import hand_over_html, hand_over_pdf, labels_html, labels_pdf, quotation_html, quotation_pdf

__all__ = [
    "alignment_html",
    "alignment_pdf",
    "bike_card_html",
    "card_html",
    "card_pdf",
    "hand_over_html",
    "hand_over_pdf",
    "labels_html",
    "labels_pdf",
    "pdf",
    "quotation_html",
    "quotation_pdf",
]
