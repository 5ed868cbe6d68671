"""What is read on site: nought is a reading too."""

from __future__ import annotations

from vinegate.core.measured import Quantity

READ_VOLTS = Quantity(name="reading", unit="V", shown="V", bare="V", example="462 V", least=0, most=1200)
READ_AMPS = Quantity(name="reading", unit="A", shown="A", bare="A", example="88.6 A", least=0, most=50000)
READ_POWER = Quantity(name="reading", unit="W", shown="W", bare="kW", example="54.2 kW", least=0, most=5e6)
INSULATION = Quantity(
    name="insulation resistance", unit="ohm", shown="Ω", bare="megaohm", example="620 MΩ", least=1, most=1e14,
    bounds=True,
)  # fmt: skip
VIBRATION = Quantity(
    name="vibration", unit="mps", shown="m/s", bare="mmps", bare_us="ipspeak", example="1.8 mm/s rms or 0.1 in/s peak",
    least=0, most=1, bare_most=0.036,  # 2 in/s: no motor is left to shake so, and 4.5 will have been mm/s
)  # fmt: skip
