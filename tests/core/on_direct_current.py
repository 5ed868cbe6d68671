"""A direct-current machine of each country on its drive, all that decides stated: changes to P-11 and to H-1."""

NEC = {
    "plate.kind": "dc-shunt", "plate.power": "25 hp", "plate.volts": "500 V", "plate.full_load_current": "43 A",
    "plate.speed": "1750 rpm", "plate.field_volts": "300 V", "plate.field_current": "1.5 A", "plate.efficiency": "87 %",
    "plate.frequency": None, "plate.code_letter": None, "plate.code_letter_for": None, "plate.design_letter": None,
    "plate.power_factor": None, "plate.leads": None, "plate.frame": "288AT", "machine.armature_resistance": "0.6 Ω",
    "machine.locked_rotor_torque": None, "machine.pull_up_torque": None, "machine.breakdown_torque": None,
    "machine.stall_hot": None, "machine.stall_cold": None, "machine.inertia": "0.4 kg·m²", "wiring.size": "6 AWG",
    "load.kind": "constant", "load.power": "22 hp", "load.inertia": "1 kg·m²", "load.breakaway": "120 %",
    "start.method": "dc-drive", "start.drive_ramp": "5 s", "protection.drive_input": "40 A",
    "protection.drive_device": "80 A", "protection.electronic": "50 A", "protection.overspeed": "yes",
    "protection.clears": None, "protection.device_nec": "fuse",
}  # fmt: skip
IEC = {
    **{path: None for path, text in NEC.items() if path.startswith(("plate.", "machine.")) or text is None},
    "plate.kind": "dc-compound", "plate.power": "22 kW", "plate.volts": "420 V", "plate.full_load_current": "58 A",
    "plate.speed": "1500 min⁻¹", "plate.efficiency": "90 %", "plate.starting_current_ratio": None, "plate.frame": None,
    "machine.inertia": "0.4 kg·m²", "wiring.size": "25 mm²", "load.kind": "constant", "load.power": "20 kW",
    "load.inertia": "1 kg·m²", "load.breakaway": "120 %", "start.method": "dc-drive", "start.drive_ramp": "5 s",
    "protection.drive_input": "55 A", "protection.electronic": "70 A", "protection.overspeed": "yes",
}  # fmt: skip
