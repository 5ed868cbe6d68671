"""The words of a PDF and where they stand."""

import re
import subprocess
from html import unescape


def words_of(body):
    """Each page's width and its words with their places, in points."""
    page = subprocess.run(["pdftotext", "-bbox", "-", "-"], input=body, capture_output=True, check=True).stdout.decode()
    found = []
    for width, inside in re.findall(r'<page width="([\d.]+)"[^>]*>(.*?)</page>', page, re.DOTALL):
        places = re.findall(
            r'<word xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">(.*?)</word>', inside
        )
        found.append((float(width), [(*map(float, one[:4]), unescape(one[4])) for one in places]))
    return found


def text_of(body):
    return " ".join(word for _, words in words_of(body) for *_, word in words)


def collisions(words):
    """Words on one line of which one begins before the other ends, by more than a point."""
    return [
        (one[4], other[4])
        for place, one in enumerate(words)
        for other in words[place + 1 :]
        if min(one[3], other[3]) - max(one[1], other[1]) > 0.6 * min(one[3] - one[1], other[3] - other[1])
        and min(one[2], other[2]) - max(one[0], other[0]) > 1
    ]
