"""What is loaded is passed over by the collector; what a request leaves behind in circles is still found."""

import subprocess
import sys

SCRIPT = """
import gc, weakref
from vinegate.collecting import loaded
loaded()
assert gc.get_freeze_count() > 1000
assert gc.isenabled() and gc.get_threshold()[0] > 700

class Node:
    pass

one = Node()
one.self = one
seen = weakref.ref(one)
del one
gc.collect()
assert seen() is None
"""


def test_circles_are_still_collected():
    subprocess.run([sys.executable, "-c", SCRIPT], check=True)
