"""Conductors whose metal nobody said: copper or aluminium, as far as their size is tabulated in each."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from vinegate.core.grade import Gate, over
from vinegate.core.supply.facts import METALS, Board


def metals(said: str | None) -> tuple[str, ...]:
    """The one that is said, else both, copper first.

    >>> metals("aluminium"), metals(None)
    (('aluminium',), ('copper', 'aluminium'))
    """
    return (said,) if said else tuple(dict(METALS))


def over_metals(path: str, said: str | None, gates_of: Callable[[str], Sequence[Gate]]) -> tuple[Gate, ...]:
    """One requirement over what the metal at `path` may be. `gates_of` gives its gate; a metal in which the size is not
    tabulated has none, or one that lacks its size, and is left out beside one that has.
    """
    every = {metal: gate for metal in metals(said) for gate in gates_of(metal)}
    found = {metal: gate for metal, gate in every.items() if not gate.needs} or every
    return (over(path, "conductors of", next(iter(found)), found),) if found else ()


def of_metals(board: Board) -> Iterator[Board]:
    """The board with a feeder of each metal that it may have."""
    return (board.model_copy(update={"metal": metal}) for metal in metals(board.metal))


def over_feeder(key: str, board: Board, gates_of: Callable[[Board], Sequence[Gate]]) -> tuple[Gate, ...]:
    """The same of a board's feeder."""
    path = f"{key}.metal"
    return over_metals(path, board.metal, lambda metal: gates_of(board.model_copy(update={"metal": metal})))
