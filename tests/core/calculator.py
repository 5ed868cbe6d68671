"""A pocket calculator for the working's lines: reads the substituted formula as a person would."""

import math
import re

_RULES = (
    ("·", "*"),
    ("−", "-"),
    ("²", "**2"),
    ("e^", "EXP"),
    ("^", "**"),
    ("π", str(math.pi)),
)


def redo(line: str) -> float:
    """The value of a line such as `√3·460·92`."""
    text = line
    for sign, plain in _RULES:
        text = text.replace(sign, plain)
    text = re.sub(r"√(\d[\d.]*)", r"sqrt(\1)", text).replace("√(", "sqrt(").replace("EXP(", "exp(")
    if not re.fullmatch(r"(?:[\d\s.,+\-*/()]|sqrt|exp|int|min|max)*", text):
        raise ValueError(f"not a calculator's line: {line}")
    known = {"sqrt": math.sqrt, "exp": math.exp, "int": int, "min": min, "max": max}
    return float(eval(text, {"__builtins__": {}}, known))
