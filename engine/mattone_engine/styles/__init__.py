"""The styles of pizza, one TOML file each; things/style.py reads them."""

from mattone_engine.things.style import FAMILIES, OVEN_FAMILIES, Style, style, style_of, styles

__all__ = ["FAMILIES", "OVEN_FAMILIES", "Style", "style", "style_of", "styles"]
