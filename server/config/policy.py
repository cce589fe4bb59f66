"""What a browser may load and run for a page of Mattone's."""

from __future__ import annotations

PARTS = (
    "default-src 'self'", "img-src 'self' data:", "object-src 'none'", "base-uri 'none'", "frame-ancestors 'none'", "form-action 'self'",
)  # fmt: skip


def policy(nonce: str = "") -> str:
    """The Content-Security-Policy: style sheets are Mattone's own files, and those that bear the page's nonce."""
    styles = f"style-src 'self' 'nonce-{nonce}'" if nonce else "style-src 'self'"
    return "; ".join([*PARTS, styles])
