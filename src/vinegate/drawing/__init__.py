"""One scene description, written as SVG for page and sheet."""
