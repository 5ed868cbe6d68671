"""The job's boards as a tree: feeders on the sheet for the circuit's own path, the whole as a network."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit, Job, number_of
from vinegate.core.grade import rule
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet, RunFacts, RunImpedance
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Board, MainBoard
from vinegate.core.supply.ground_fault import ground_fault, ground_fault_at_boards
from vinegate.core.supply.network import BASE_VA, Bus, Network, NotHeld, fault_currents_a, with_regulated_root
from vinegate.core.supply.source import Source, softest
from vinegate.core.system_volts import two_wires
from vinegate.core.working import Figure, Provenance

ASSUMED_LOAD_PF: Final = 0.9
_ASSUMED_TRANSFORMER_X_OVER_R: Final = 2.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Leg:
    """One feeder on the way from the main board: ohms at its board's volts, and whether it ends in a transformer."""

    key: str
    run: RunImpedance
    volts_v: float
    transformer: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Feed:
    """What stands between the main board and the circuit's board, referred to the circuit's volts; and the network.

    `run` is None when the circuit hangs on the main board; `network` is None while the source or a feeder on the
    way is not known. `at` is the circuit's bus.
    """

    board: str
    volts_v: float
    run: RunImpedance | None
    network: Network | None
    known: bool
    legs: tuple[Leg, ...] = ()

    @property
    def at(self) -> int:
        assert self.network is not None
        return self.network.index(self.board)


def board_name(job: Job, key: str | None) -> str:
    """What a board is called: its own name, or what it is."""
    if key is None or key == "main":
        return job.main_board.name or "the board"
    board = job.board(key)
    assert board is not None
    return board.name or f"board {number_of(key)}"


def path_to(job: Job, key: str | None) -> list[str]:
    """Boards from the main board to this one, without the main board; a ring of boards is cut where it closes."""
    way: list[str] = []
    while key is not None and key != "main" and key not in way:
        way.append(key)
        board = job.board(key)
        assert board is not None
        key = board.fed_from
    return way[::-1]


def feed(
    sheet: Sheet, job: Job, circuit: Circuit, rules: RuleSet, source: Source | None, hertz: float | None
) -> Feed | None:
    """Feeders of the circuit's path on the sheet, the network of the whole tree. None without system volts."""
    key = circuit.wiring.board or "main"
    volts = job.volts_at(key)
    if volts is None:
        return None
    way = path_to(job, key)
    runs: dict[str, RunImpedance | None] = {}
    for place in way:
        board = job.board(place)
        assert board is not None
        runs[place] = _feeder(sheet, place, board, job, rules, hertz)
    ring = bool(way) and path_parent(job, way[0]) not in (None, "main")
    if ring:
        sheet.needs([(f"{way[0]}.fed_from", f"a feed of {board_name(job, way[0])} that is not a ring")], "the supply")
    known = not ring and all(runs[place] is not None for place in way)
    joined = _referred(sheet, job, way, runs, volts) if way and known else None
    network = _network(sheet, job, rules, source, hertz) if source is not None and known else None
    if network is not None and source is not None:
        _faults(sheet, job, network, way, source, runs)
        ground_fault(sheet, job, source)
        ground_fault_at_boards(sheet, _without_transformers(job, way, runs))
    return Feed(
        board=key, volts_v=volts, run=joined, network=network, known=known, legs=_legs(job, way, runs) if known else ()
    )


def _run_of(key: str, board: Board) -> RunFacts:
    """The feeder of a board: `key` as in the job's facts ("board_2")."""
    return RunFacts(
        path=key,
        mark=str(number_of(key)),
        size=board.size,
        metal=board.metal,
        raceway=board.raceway,
        length_m=board.length_m,
        sets=board.sets,
    )


def _legs(job: Job, way: list[str], runs: dict[str, RunImpedance | None]) -> tuple[Leg, ...]:
    found = []
    for key in way:
        run, board = runs[key], job.board(key)
        assert run is not None
        assert board is not None
        volts = job.volts_at(key) or 0.0
        found.append(Leg(key=key, run=run, volts_v=volts, transformer=board.transformer_power_va is not None))
    return tuple(found)


def _network(sheet: Sheet, job: Job, rules: RuleSet, source: Source, hertz: float | None) -> Network | None:
    try:
        return network_of(job, rules, source, hertz)
    except NotHeld as error:
        remedy = "A larger generator, or less load on it before the start."
        source_text = "no regulator raises the emf above 2.5 times rated volts; usual"
        sheet.gates.append(
            rule("supply.held", "The source holds its volts", False, str(error), source_text, remedy=remedy)
        )
        return None


def _feeder(sheet: Sheet, key: str, board: Board, job: Job, rules: RuleSet, hertz: float | None) -> RunImpedance | None:
    """Series ohms of a board's feeder and transformer, at the board's own volts."""
    found: RunImpedance | None = None
    transformed = board.transformer_power_va is not None or board.transformer_impedance_pu is not None
    if board.size is not None or board.length_m is not None or not transformed:
        found = rules.conductor(sheet, _run_of(key, board), hertz) if hertz else None
        if found is None:
            return None
    if not transformed:
        return found
    wanted = (
        (f"{key}.transformer_power", "transformer power", board.transformer_power_va),
        (f"{key}.transformer_impedance", "transformer impedance", board.transformer_impedance_pu),
        (f"{key}.volts", "volts", job.volts_at(key)),
        ("supply.volts", "volts ahead of the transformer", job.volts_at(board.fed_from)),
    )
    missing = [(path, f"{label} of {board_name(job, key)}") for path, label, value in wanted if not value]
    if missing:
        sheet.needs(missing, "the feed")
        return None
    return _with_transformer(sheet, key, board, job, found)


def _with_transformer(sheet: Sheet, key: str, board: Board, job: Job, feeder: RunImpedance | None) -> RunImpedance:
    """The transformer's ohms at the board's volts; the feeder's, which lie on its other side, brought over."""
    mark = number_of(key)
    assert board.transformer_power_va and board.transformer_impedance_pu  # noqa: PT018
    u = sheet.given(f"board_{mark}_volts", "Volts of the board", f"U_{mark}", job.volts_at(key) or 0.0, "V")
    kva = sheet.given(
        f"board_{mark}_kva", "Its transformer", f"S_{mark}", board.transformer_power_va / 1000, "kVA",
        fact=f"{key}.transformer_power",
    )  # fmt: skip
    z_pct = 100 * board.transformer_impedance_pu
    pct = sheet.given(
        f"board_{mark}_pct", "Transformer impedance", f"z_{mark}", z_pct, "%", fact=f"{key}.transformer_impedance"
    )
    given = board.transformer_x_over_r is not None
    ratio = sheet.given(f"board_{mark}_x_over_r", "Transformer X/R", f"x_{mark}",
                        board.transformer_x_over_r or _ASSUMED_TRANSFORMER_X_OVER_R, "",
                        provenance=Provenance.STATED if given else Provenance.ASSUMED,
                        source="entered" if given else "usual of dry units of 15 to 75 kVA",
                        fact=f"{key}.transformer_x_over_r")  # fmt: skip
    lines, half = (2, "/2") if two_wires(job.volts_at(key)) else (1, "")
    z = pct.value / 100 * u.value**2 / kva.value / lines
    above_v = job.volts_at(board.fed_from) or 0
    above = sheet.given(f"board_{mark}_above", "Volts ahead of it", f"U_p{mark}", above_v, "V")
    scale = (u.value / above.value) ** 2

    def part(name: str, symbol: str, share: float, text: str, ahead: Figure | None) -> Figure:
        formula = f"z_{mark}/100·U_{mark}²/S_{mark}{half}{text}"
        if ahead:
            formula += f"+{ahead.symbol}·(U_{mark}/U_p{mark})²"
        return sheet.work(
            f"board_{mark}_{symbol.lower()}", f"Feed of {board_name(job, key)}, {name}", f"{symbol}_b{mark}",
            z * share + (ahead.value * scale if ahead else 0), "mΩ", formula=formula,
            inputs=(pct, u, kva, ratio, above, *((ahead,) if ahead else ())), source="IEC 60909-0:2016 6.3",
        )  # fmt: skip

    whole, r, x = (1 + ratio.value**2) ** 0.5, feeder.r if feeder else None, feeder.x if feeder else None
    return RunImpedance(
        part("resistance", "R", 1 / whole, f"/√(1+x_{mark}²)", r),
        part("reactance", "X", ratio.value / whole, f"·x_{mark}/√(1+x_{mark}²)", x),
    )


def _referred(
    sheet: Sheet, job: Job, way: list[str], runs: dict[str, RunImpedance | None], volts: float
) -> RunImpedance:
    """The path's feeders in series at the circuit's volts: `Σ Z·(U/U_b)²`."""
    terms: dict[str, list[tuple[Figure, float]]] = {"r": [], "x": []}
    for place in way:
        run = runs[place]
        assert run is not None
        scale = (volts / (job.volts_at(place) or volts)) ** 2
        terms["r"].append((run.r, scale))
        terms["x"].append((run.x, scale))
    figures = []
    for name, title, symbol in (("r", "resistance", "R_fd"), ("x", "reactance", "X_fd")):
        formula = "+".join(f.symbol if scale == 1 else f"{f.symbol}·{scale:.6g}" for f, scale in terms[name])
        figures.append(
            sheet.work(
                f"feed_{name}",
                f"Feed from the main board, {title}",
                symbol,
                sum(f.value * scale for f, scale in terms[name]),
                "mΩ",
                formula=formula,
                inputs=[f for f, _ in terms[name]],
                source="in series, at the circuit's volts",
            )
        )
    return RunImpedance(figures[0], figures[1])


def network_of(job: Job, rules: RuleSet, source: Source, hertz: float | None) -> Network:
    """The whole tree per unit. A board whose feeder is not known stands on its parent without impedance.

    A standby generator is given the emf that holds the main board at its volts before the start.
    """
    system_v = job.supply.volts_v or source.volts.value
    base_ohm = system_v**2 / BASE_VA
    z = complex(source.r.value, source.x.value) / 1000 / base_ohm
    buses = [_bus("main", board_name(job, "main"), -1, z, system_v, job.main_board)]
    places = {"main": 0}
    waiting = [key for key, board in job.boards.items() if board.used]
    while waiting:
        ready = [key for key in waiting if (path_parent(job, key) or "main") in places]
        if not ready:
            break
        for key in ready:
            board = job.board(key)
            assert board is not None
            volts = job.volts_at(key) or system_v
            scratch = Sheet("scratch", "")
            run = _feeder(scratch, key, board, job, rules, hertz)
            ohms = complex(run.r.value, run.x.value) / 1000 if run else 0j
            parent = places[path_parent(job, key) or "main"]
            buses.append(_bus(key, board_name(job, key), parent, ohms * BASE_VA / volts**2, volts, board))
            places[key] = len(buses) - 1
            waiting.remove(key)
    network = Network(buses=tuple(buses), emf_pu=1.0)
    return with_regulated_root(network) if job.on_standby else network


def path_parent(job: Job, key: str) -> str | None:
    board = job.board(key)
    assert board is not None
    return board.fed_from


def _bus(key: str, name: str, parent: int, z: complex, volts: float, board: Board | MainBoard) -> Bus:
    times = 2 if two_wires(volts) else 1  # what comes back by the other line passes the ohms of both
    apparent = times * (board.load_power_va or 0.0) / BASE_VA
    factor = board.load_power_factor or ASSUMED_LOAD_PF
    power = apparent * complex(factor, (1 - factor**2) ** 0.5)
    capacitors = times * 1j * (board.capacitor_power or 0.0) / BASE_VA
    constant = board.load_model == "power"
    return Bus(
        key=key,
        name=name,
        parent=parent,
        z_pu=z,
        volts_v=volts,
        y_pu=(0j if constant else power.conjugate()) + capacitors,
        s_pu=power if constant else 0j,
    )


def _without_transformers(
    job: Job, way: list[str], runs: dict[str, RunImpedance | None]
) -> list[tuple[str, str, float | None, RunImpedance]]:
    """The path's plain feeders up to the first transformer, which zero-sequence current does not pass alike."""
    found = []
    for key in way:
        board, run = job.board(key), runs[key]
        if board is None or run is None or board.transformer_power_va is not None:
            break
        found.append((key, board_name(job, key), board.zero_ratio, run))
    return found


def _faults(
    sheet: Sheet, job: Job, network: Network, way: list[str], source: Source, runs: dict[str, RunImpedance | None]
) -> None:
    """Fault current at each further bus of the path; the main board's stands with the source."""
    currents = fault_currents_a(network)
    passed, transformed = [source.r, source.x], False
    for key in way:
        index, run = network.index(key), runs[key]
        passed += [run.r, run.x] if run else []
        between = two_wires(job.volts_at(key))
        kind, root = ("Fault current between lines", "2") if between else ("Three-phase fault current", "√3")
        title, symbol = f"{kind} at {board_name(job, key)}", f"I_sc{number_of(key)}"
        amps = currents[index] / 1000 * (3**0.5 / 2 if between else 1.0)
        rule = "over all impedances on the way; IEC 60909-0:2016 7.2, c = 1; motors not included"
        transformed = transformed or network.buses[index].volts_v != source.volts.value
        if transformed:  # its ohms stand at other volts
            sheet.given(f"fault_at_{key}", title, symbol, amps, "kA", provenance=softest(*passed),
                        source=f"U/({root}·|Z|) {rule}")  # fmt: skip
            continue
        r, x = ("+".join(one.symbol for one in passed[axis::2]) for axis in (0, 1))
        sheet.work(f"fault_at_{key}", title, symbol, amps, "kA", formula=f"U/({root}·√(({r})²+({x})²))",
                   inputs=(source.volts, *passed), source=rule)  # fmt: skip
