"""The part bench: a part worked out on its own, told in words and units, and put into a job as a change."""

from collections.abc import Callable, Mapping
from typing import Any

import numpy as np

from inclinum.core.bike.job import BikeJob
from inclinum.core.car.job import Job
from inclinum.core.car.stance import ride_corner
from inclinum.core.car.vehicle import Axle
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.machines import BIKE, CAR, AnyJob, AnyPlanned, kind_of
from inclinum.core.part_sheets import SHEETS, Sheet
from inclinum.core.part_sheets.air_levelling import AirLevelling
from inclinum.core.part_sheets.corner import CoilWireSheet, SpacersSheet, SpringSwapSheet
from inclinum.core.part_sheets.damper_brackets import DamperBrackets
from inclinum.core.part_sheets.dual_rate_stack import DualRateStackSheet
from inclinum.core.part_sheets.examples import EXAMPLES
from inclinum.core.part_sheets.fork import ForkSheet
from inclinum.core.part_sheets.leaf_pack import LeafPackSheet
from inclinum.core.part_sheets.progressive_coil import ProgressiveCoilSheet
from inclinum.core.part_sheets.rake_trail_stand import RakeTrailStand
from inclinum.core.part_sheets.rear_linkage import RearLinkage
from inclinum.core.part_sheets.stations import Stations
from inclinum.core.part_sheets.torsion_bar import TorsionBarSheet
from inclinum.core.springs import PiecewiseSpring, wire_rate
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.springs.fitted import ProgressiveCoilData
from inclinum.core.springs.leaf import STEEL_MODULUS

TITLES: dict[type[Sheet], tuple[str, str]] = {
    CoilWireSheet: ("Coil by calliper", "A coil without a stamp: its rate, where it binds, what it carries."),
    SpringSwapSheet: ("Another coil", "Old coil against new at one load: height, rate, what is left at both ends."),
    ProgressiveCoilSheet: ("Progressive coil", "Groups of coils: when each lies together, and the force table."),
    DualRateStackSheet: ("Tender and main", "Two coils with a divider: where the rate steps, what two turns do."),
    LeafPackSheet: ("Leaf pack", "Old pack against new, block, shackle, and the U-bolts' leg."),
    TorsionBarSheet: ("Torsion bar", "Rate and rest angle, pairs of teeth, turns of an adjuster."),
    AirLevelling: ("Air spring", "Pressure, settled and quick rate, and what a level sensor's link holds."),
    SpacersSheet: ("Spacer, seat or tower", "One thickness at both places: height and window of each."),
    DamperBrackets: ("Damper holes", "Stroke left in every hole, and which is the best."),
    Stations: ("Heights along a vehicle", "From both axles to any place, and back from two readings."),
    ForkSheet: ("Fork, springs and oil", "Preload, sag, air, and how far the tubes may be raised."),
    RearLinkage: ("Rear linkage", "Two links of a rocker: leverage, drop, sag, preload."),
    RakeTrailStand: ("Rake, trail and stand", "What drops of both ends do to steering, seat and side stand."),
}
"""Of the sheets that are a part's: those of a whole vehicle are jobs."""


class BenchPart(Document):
    """A kind of part the bench works out."""

    kind: str
    title: str
    about: str
    machine: str
    """Kind of machine whose jobs take it as a change; empty where none does."""
    ends: tuple[AxleName, ...]
    """Where it can go on that machine, where there is a choice."""
    parameters: dict[str, Any]
    """JSON schema of its sheet."""
    example: dict[str, Any]
    """One to begin with, invented."""


class Told(Document):
    """One result."""

    name: str
    value: float | bool | str | None
    unit: str


class ToldTable(Document):
    """Results side by side."""

    name: str
    columns: tuple[str, ...]
    rows: tuple[tuple[float | bool | str | None, ...], ...]


class BenchAnswer(Document):
    """Everything that follows from a part."""

    main: tuple[Told, ...]
    """The few results a part is worked out for."""
    results: tuple[Told, ...]
    tables: tuple[ToldTable, ...]


UNITS = {
    "N_per_mm2": "N/mm²", "N_mm_per_rad": "N·mm/rad", "N_per_mm": "N/mm", "mm2_per_mm": "mm²/mm", "mm3": "mm³",
    "mm2": "mm²", "mm": "mm", "deg": "°", "Hz": "Hz", "kg": "kg", "N": "N", "turns": "turns", "percent": "%",
    "ratio": "", "per_mm": "1/mm", "m_per_s2": "m/s²",
}  # fmt: skip
"""Units by the ending of a result's name, the longer endings first."""


def parts() -> list[BenchPart]:
    """Every kind of part of the bench, with what it is told by."""
    return [
        BenchPart(
            kind=kind, title=TITLES[sheet][0], about=TITLES[sheet][1], machine=_machine(sheet),
            ends=AXLES if sheet in OF_CAR else (),
            parameters=_titled(sheet.model_json_schema()), example={"kind": kind} | EXAMPLES[kind],
        )
        for sheet in TITLES
        for kind in [sheet.model_fields["kind"].default]
    ]  # fmt: skip


def _machine(sheet: type[Sheet]) -> str:
    return CAR.name if sheet in OF_CAR else BIKE.name if sheet in OF_BIKE else ""


def _titled(schema: dict[str, Any]) -> dict[str, Any]:
    """The schema with fields named as results are; notes are nothing to fill in at the bench."""
    for table in (schema, *schema.get("$defs", {}).values()):
        for name, field in list(table.get("properties", {}).items()):
            if name in ("assumptions", "formula"):
                del table["properties"][name]
                continue
            words, unit = named(name)
            field["title"] = words
            if unit:
                field["unit"] = unit
        for name in LAST:
            if name in table.get("properties", {}):
                table["properties"][name] = table["properties"].pop(name)
    return schema


def named(field: str) -> tuple[str, str]:
    """A field's name in words, and its unit."""
    for ending, unit in UNITS.items():
        if field.endswith(f"_{ending}"):
            return _words(field.removesuffix(f"_{ending}")), unit
    return _words(field), ""


IN_WORDS = {"G": "shear modulus", "E": "elastic modulus", "installation": "motion ratio", "xz": "forward and up"}
"""Short names of the sheets, in the field's words."""
LAST = ("G_N_per_mm2", "E_N_per_mm2", "gravity_m_per_s2", "atmosphere_N_per_mm2")
"""Constants that nobody sets often: they stand at the end of a form."""


def _words(name: str) -> str:
    text = " ".join(IN_WORDS.get(word, word) for word in name.split("_")).strip()
    return text[:1].upper() + text[1:]


MAIN: dict[type[Sheet], tuple[str, ...]] = {
    CoilWireSheet: ("coil_rate_N_per_mm", "solid_length_mm", "coil_bind_margin_at_full_bump_mm"),
    SpringSwapSheet: (
        "ride_height_change_mm", "wheel_rate_after_N_per_mm", "ride_frequency_after_Hz",
        "coil_bind_margin_at_full_bump_mm",
    ),
    ProgressiveCoilSheet: ("total_shortening_to_solid_mm",),
    DualRateStackSheet: (
        "series_rate_N_per_mm", "baseline.crossover_spring_travel_mm", "extra_preload.ride_height_change_mm",
    ),
    LeafPackSheet: ("height_change_total_mm", "new_pack.rate_at_ride_N_per_mm", "u_bolt_leg_length_mm"),
    TorsionBarSheet: ("nearest.inner", "nearest.outer", "nearest.height_change_mm", "wheel_rate_at_ride_N_per_mm"),
    AirLevelling: ("gauge_pressure_at_baseline_N_per_mm2", "wheel_rate_slow_N_per_mm", "wheel_rate_quick_N_per_mm"),
    SpacersSheet: (
        "spring_seat_spacer.ride_height_change_mm", "strut_top_spacer.ride_height_change_mm",
        "strut_top_spacer.droop_left_from_ride_mm",
    ),
    DamperBrackets: ("bump_travel_from_ride_to_full_mm", "full_bump_travel_mm"),
    Stations: ("pitch_change_nose_down_positive_deg", "inverse_front_axle_change_mm", "inverse_rear_axle_change_mm"),
    ForkSheet: ("as_fitted.laden_sag_along_fork_mm", "spacer_length_for_target_mm", "largest_allowed_raise_mm"),
    RearLinkage: (
        "lowering_link_same_preload.rear_axle_drop_laden_mm", "lowering_link_same_preload.laden_sag_mm",
        "preload_change_for_target_laden_sag_mm",
    ),
    RakeTrailStand: ("trail_change_mm", "rake_change_deg", "seat_height_change_mm", "fork_raise_that_keeps_trail_mm"),
}  # fmt: skip
"""Of each part the results it is worked out for: names of its answer, dotted where they lie deeper."""


def worked_out(sheet: Sheet) -> BenchAnswer:
    """Everything that follows from a part, in rows and tables. Raises DomainError where its numbers contradict."""
    results: list[Told] = []
    tables: list[ToldTable] = []
    answer = sheet.answer()
    _walk(answer, "", results, tables)
    main = [told for path in MAIN.get(type(sheet), ()) if (told := _at(answer, path)) is not None]
    return BenchAnswer(main=tuple(main), results=tuple(results), tables=tuple(tables))


def _at(answer: Mapping[str, Any], path: str) -> Told | None:
    """A result by its path; None where the part was not asked for it."""
    *groups, last = path.split(".")
    found: Any = answer
    for group in groups:
        found = found.get(group) or {}
    if last not in found:
        return None
    words, unit = named(last)
    under = _words(groups[-1]) if groups else ""
    return Told(name=f"{under}: {words[:1].lower()}{words[1:]}" if under else words, value=found[last], unit=unit)


def _walk(answer: Mapping[str, Any], under: str, results: list[Told], tables: list[ToldTable], of: str = "") -> None:
    beside = _alike(answer)
    if beside:
        tables.append(_side_by_side(under or "Side by side", {n: answer[n] for n in beside}))
    columns = {n: v for n, v in answer.items() if isinstance(v, list | tuple) and not any(map(_nested, v))}
    lengths = {len(v) for v in columns.values()}
    for name, value in answer.items():
        words, unit = named(name)
        full = f"{under}: {words[:1].lower()}{words[1:]}" if under else words
        if name in beside:
            continue
        if isinstance(value, Mapping):
            _walk(value, full, results, tables, unit)
        elif isinstance(value, list | tuple) and any(map(_nested, value)):
            _rows(full, value, results, tables)
        elif not isinstance(value, list | tuple):
            results.append(Told(name=full, value=value, unit=unit or of))
    for length in sorted(lengths):
        same = {n: v for n, v in columns.items() if len(v) == length}
        if length:
            heads = [f"{w}, {u}" if u else w for w, u in map(named, same)]
            rows = tuple(zip(*same.values(), strict=True))
            tables.append(ToldTable(name=under or "Table", columns=tuple(heads), rows=rows))


def _alike(answer: Mapping[str, Any]) -> tuple[str, ...]:
    """Groups of results that are mostly the same results: before and after, one way and another."""
    groups = {
        n: set(v) for n, v in answer.items() if isinstance(v, Mapping) and v and not any(map(_nested, v.values()))
    }
    if len(groups) < 2:
        return ()
    shared = set.intersection(*groups.values())
    return tuple(groups) if len(shared) >= 0.6 * max(map(len, groups.values())) else ()


def _deep(group: Mapping[str, Any]) -> bool:
    return any(map(_nested, group.values()))


def _side_by_side(name: str, groups: Mapping[str, Mapping[str, Any]]) -> ToldTable:
    keys = list(dict.fromkeys(k for g in groups.values() for k in g))
    heads = [f"{w}, {u}" if u else w for w, u in map(named, keys)]
    rows = tuple((head, *(g.get(k) for g in groups.values())) for head, k in zip(heads, keys, strict=True))
    return ToldTable(name=name, columns=("", *map(_words, groups)), rows=rows)


def _nested(value: Any) -> bool:
    return isinstance(value, Mapping | list | tuple)


def _rows(name: str, rows: Any, results: list[Told], tables: list[ToldTable]) -> None:
    """A list of things that have results of their own."""
    if all(isinstance(r, Mapping) for r in rows) and not any(_nested(v) for r in rows for v in r.values()):
        keys = list(dict.fromkeys(k for r in rows for k in r))
        heads = [f"{w}, {u}" if u else w for w, u in map(named, keys)]
        tables.append(
            ToldTable(name=name, columns=tuple(heads), rows=tuple(tuple(r.get(k) for k in keys) for r in rows))
        )
        return
    for n, row in enumerate(rows, 1):
        _walk(row if isinstance(row, Mapping) else {"values": row}, f"{name} {n}", results, tables)


def planned(sheet: Sheet, job: AnyJob, axle: AxleName | None) -> AnyPlanned:
    """The part as a change of a job, with a free id, as it is put on the stack.

    Both are told as they were worked out: what the bench did not ask for is as the change begins.

    Args:
        sheet: the part.
        job: the job.
        axle: where; None on two wheels.

    Raises:
        DomainError: this part is no change, or none on such a machine, or its place does not take it.
    """
    title = TITLES[type(sheet)][0] if type(sheet) in TITLES else type(sheet).model_fields["kind"].default
    if isinstance(job, Job) and (wanted := OF_CAR.get(type(sheet))):
        if axle is None:
            raise DomainError("On four wheels a part goes on one axle: say which.")
        kind, fields = wanted
        begun = kind_of(job).begin(job, kind, axle)
        told = fields(sheet, job.vehicle.axle(axle))
    elif isinstance(job, BikeJob) and (on_two := OF_BIKE.get(type(sheet))):
        kind, told_by = on_two
        begun = kind_of(job).begin(job, kind, None)
        told = told_by(sheet)
    else:
        raise DomainError(f"The part “{title}” becomes no change on such a machine.")
    change = begun.change
    return type(begun).model_validate({"id": begun.id, "change": change.model_dump() | told})


def _by_wire(sheet: CoilWireSheet, axle: Axle) -> dict[str, Any]:
    _ = axle
    wire = {
        "wire_mm": sheet.wire_diameter_mm, "outside_mm": sheet.mean_diameter + sheet.wire_diameter_mm,
        "active_coils": sheet.active_coils, "total_coils": sheet.total_coils,
    }  # fmt: skip
    inside = sheet.mean_diameter - sheet.wire_diameter_mm
    rate = wire_rate(sheet.wire_diameter_mm, sheet.mean_diameter, sheet.active_coils, sheet.G_N_per_mm2)
    told = {"rate_n_per_mm": round(rate, 2), "solid_length_mm": round(sheet.wire_diameter_mm * sheet.total_coils, 1)}
    counted = {"free_length_mm": sheet.free_length_mm, "inside_mm": inside, "active_coils": sheet.active_coils}
    return {"coil": told | counted | {"wire": wire}}


def _swapped(sheet: SpringSwapSheet, axle: Axle) -> dict[str, Any]:
    _ = axle
    new = sheet.new_spring
    if new.solid_length_mm is None:
        raise DomainError("A job asks when the coil goes solid: give the new spring's solid length here first.")
    return {
        "coil": {
            "rate_n_per_mm": new.rate_N_per_mm, "free_length_mm": new.free_length_mm,
            "solid_length_mm": new.solid_length_mm, "active_coils": new.active_coils,
        }
    }  # fmt: skip


def _progressive(sheet: ProgressiveCoilSheet, axle: Axle) -> dict[str, Any]:
    """The bench knows no free length: the spring gets the one that carries what the fitted one does."""
    _usual(sheet.G_N_per_mm2, STEEL_SHEAR_MODULUS, "shear modulus")
    groups = [g.model_dump(exclude={"label"}) for g in sheet.groups]
    spring = {"type": "progressive_coil", "wire_mm": sheet.wire_diameter_mm, "groups": groups}
    ride = ride_corner(axle)
    length, force = float(ride.spring_at(0.0)), float(ride.spring_force(0.0))
    pressed = ProgressiveCoilData.model_validate(spring | {"free_length_mm": 1400.0}).spring()
    assert isinstance(pressed, PiecewiseSpring)
    if force > pressed.forces[-1]:
        raise DomainError("This coil is solid before it carries what the fitted spring does: it is another car's.")
    shortened = float(np.interp(force, pressed.forces, pressed.shortening))
    return {"spring": spring | {"free_length_mm": round(length + shortened, 1)}}


def _usual(given: float, usual: float, what: str) -> None:
    """A job counts with the usual steel: another one is told by its rate."""
    if given != usual:
        raise DomainError(
            f"A job counts with {usual:g} N/mm² of {what}, and this part was worked out with {given:g}: put its rate "
            "into the job by hand, or take the usual steel."
        )


def _stack(sheet: DualRateStackSheet, axle: Axle) -> dict[str, Any]:
    def coil(of: Any) -> dict[str, Any]:
        return {
            "rate_n_per_mm": of.rate_N_per_mm, "free_length_mm": of.free_length_mm,
            "solid_length_mm": of.solid_length_mm,
        }  # fmt: skip

    preload = sheet.preload_turns * sheet.collar_pitch_mm
    return {
        "spring": {
            "type": "dual_rate_stack", "tender": coil(sheet.tender), "main": coil(sheet.main), "order": sheet.order,
            "preload_mm": preload, "gap_mm": sheet.gap_divider_to_stop_at_full_extension_mm,
            # The stack between its seats is as long as its coils, less what the collar has pressed.
            "length_extended_mm": sheet.tender.free_length_mm + sheet.main.free_length_mm - preload,
        }
    }  # fmt: skip


def _pack(sheet: LeafPackSheet, axle: Axle) -> dict[str, Any]:
    _usual(sheet.E_N_per_mm2, STEEL_MODULUS, "elastic modulus")
    new, was = sheet.new_pack, axle.spring
    helper = None
    if (h := new.helper) is not None:
        helper = {
            "rate_n_per_mm": new.pack(sheet.E_N_per_mm2).helper_rate, "contact_deflection_mm": h.contact_deflection_mm,
            "thickness_mm": h.leaves * (h.thickness_mm + h.liner_mm),
        }  # fmt: skip
    return {
        "spring": {
            "type": "leaf_pack", "leaves": new.leaves, "width_mm": new.width_mm, "thickness_mm": new.thickness_mm,
            "length_mm": new.length_mm, "free_arch_mm": new.free_arch_mm, "helper": helper,
            "arch_mm": getattr(was, "arch_mm", 0.0), "liner_mm": new.liner_mm,
        }
    }  # fmt: skip


def _bar(sheet: TorsionBarSheet, axle: Axle) -> dict[str, Any]:
    _ = axle
    return {
        "spring": {
            "type": "torsion_bar", "diameter_mm": sheet.bar.diameter_mm, "length_mm": sheet.bar.active_length_mm,
            "free_angle_deg": sheet.free_angle_deg, "shear_modulus_n_per_mm2": sheet.bar.G_N_per_mm2,
        }
    }  # fmt: skip


def _bag(sheet: AirLevelling, axle: Axle) -> dict[str, Any]:
    _ = axle
    bag = sheet.bag
    pressure = sheet.sprung_load_at_wheel_N / sheet.installation_ratio / bag.area_at_baseline_mm2
    return {
        "spring": {
            "type": "air_spring", "height_mm": bag.height_at_baseline_mm, "area_mm2": bag.area_at_baseline_mm2,
            "area_slope_mm2_per_mm": bag.area_slope_mm2_per_mm, "volume_mm3": bag.volume_at_baseline_mm3,
            "gauge_pressure_n_per_mm2": pressure,
        }
    }  # fmt: skip


def _spacer(sheet: SpacersSheet, axle: Axle) -> dict[str, Any]:
    _ = axle
    return {"thickness_mm": sheet.spacer_thickness_change_mm}


def _holes(sheet: DamperBrackets, axle: Axle) -> dict[str, Any]:
    """The first of the sheet's holes is the one it hangs in."""
    _ = axle
    first, *others = sheet.upper_holes
    if not others:
        raise DomainError("One hole is no choice: give the one it hangs in first, then the others.")
    x, z = first.xz_mm
    return {
        "mount": "frame",
        "holes": [{"name": h.label, "up_mm": h.xz_mm[1] - z, "forward_mm": h.xz_mm[0] - x} for h in others],
    }


def _fork_spring(sheet: ForkSheet) -> dict[str, Any]:
    spring = {
        "rate_n_per_mm": sheet.spring_rate_per_leg_N_per_mm, "free_length_mm": sheet.spring_free_length_mm,
    }  # fmt: skip
    return {"spring": spring, "spacer_mm": sheet.spacer_length_mm}


def _link(sheet: RearLinkage) -> dict[str, Any]:
    return {"hole_mm": sheet.lowering_link.rocker_rod_hole_radius_mm, "rod_mm": sheet.lowering_link.rod_length_mm}


def _raised(sheet: RakeTrailStand) -> dict[str, Any]:
    return {"raised_mm": sheet.fork_raised_mm}


Fields = Callable[[Any, Axle], dict[str, Any]]
OF_CAR: dict[type[Sheet], tuple[str, Fields]] = {
    CoilWireSheet: ("spring_swap", _by_wire), SpringSwapSheet: ("spring_swap", _swapped),
    ProgressiveCoilSheet: ("progressive_spring", _progressive), DualRateStackSheet: ("dual_rate_springs", _stack),
    LeafPackSheet: ("leaf_packs", _pack), TorsionBarSheet: ("torsion_bars", _bar), AirLevelling: ("air_springs", _bag),
    SpacersSheet: ("seat_spacer", _spacer), DamperBrackets: ("damper_holes", _holes),
}  # fmt: skip
OF_BIKE: dict[type[Sheet], tuple[str, Callable[[Any], dict[str, Any]]]] = {
    ForkSheet: ("fork_springs", _fork_spring), RearLinkage: ("rear_link", _link),
    RakeTrailStand: ("fork_raise", _raised),
}  # fmt: skip
"""What a part becomes on a machine: the kind of change, and its parameters."""
assert set(TITLES) <= set(SHEETS.values())
