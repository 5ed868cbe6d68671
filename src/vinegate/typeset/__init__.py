"""Pages that print, typeset as PDF: the page's own HTML, read as a tree and laid out on paper."""
