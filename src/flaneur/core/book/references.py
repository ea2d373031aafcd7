"""Whether a book names only what it has: drive, wheels, marks, clearance, components and work."""

from collections.abc import Iterator
from typing import Any

from flaneur.core.book.bolts import bolt_faults, shown_faults
from flaneur.core.book.drive import Chain
from flaneur.core.book.marks import TeethOff
from flaneur.core.book.schema import EdgeWheel, EngineBook, GapWheel
from flaneur.core.book.tasks import Effects, Observe, Task
from flaneur.core.book.valves import Clearance
from flaneur.core.book.ways import on_ways
from flaneur.core.book.wheels import crank_events_deg
from flaneur.core.errors import Fault, KeyTextError
from flaneur.core.keys import Contact, StepRef, Verb


def reference_faults(book: EngineBook) -> Iterator[Fault]:
    """Every place where a book names what it does not have, or contradicts itself without any
    geometry.
    """
    yield from _drive_faults(book)
    yield from _component_faults(book)
    yield from _operation_faults(book)
    yield from _way_faults(book)
    for key, fastener in book.fasteners.items():
        yield from bolt_faults(book, f"fasteners.{key}", fastener)
    for key, kit in book.kits.items():
        for part, count in kit.holds.items():
            path = f"kits.{key}.holds.{part}"
            known = {**book.components, **book.fasteners}
            yield from _missing(path, part, known, "component or fastener")
            if not 1 <= count <= 60:
                yield Fault(path, f"{count} of them", "1 to 60")


def _way_faults(book: EngineBook) -> Iterator[Fault]:
    """Each way serves what there is, leaves out what there is, and names only what there is."""
    for key, way in book.ways.items():
        path = f"ways.{key}"
        for i, name in enumerate(way.serves):
            yield from _missing(f"{path}.serves.{i}", name, book.components, "component")
        for i, name in enumerate(way.locks_out):
            yield from _missing(f"{path}.locks_out.{i}", name, book.components, "component")
        for i, name in enumerate(way.without):
            yield from _missing(f"{path}.without.{i}", name, book.operations, "operation")
        there = on_ways(book, (key,))
        for fault in [*_component_faults(there), *_operation_faults(there)]:
            group, entry = fault.path.split(".")[:2]
            if entry in getattr(way, group):
                yield fault._replace(path=f"{path}.{fault.path}")


def _missing(path: str, name: str, known: Any, what: str) -> Iterator[Fault]:
    if name not in known:
        yield Fault(path, f"no {what} is called {name}")


def _drive_faults(book: EngineBook) -> Iterator[Fault]:
    for group, wheels in (("sprockets", book.sprockets), ("gears", book.gears)):
        for key, wheel in wheels.items():
            yield from _missing(f"{group}.{key}.shaft", wheel.shaft, book.shafts, "shaft")
            yield from _missing(f"{group}.{key}.plane", wheel.plane, book.planes, "drive plane")
    for key, shaft in book.shafts.items():
        if shaft.bank is not None:
            yield from _missing(f"shafts.{key}.bank", shaft.bank, book.banks, "bank")
    for key, chain in book.chains.items():
        yield from _chain_faults(book, f"chains.{key}", chain)
    yield from _face_faults(book)
    for key, phaser in book.phasers.items():
        yield from _missing(f"phasers.{key}.shaft", phaser.shaft, book.shafts, "shaft")
    yield from _tone_wheel_faults(book)
    yield from _mark_faults(book)
    if book.clearance:
        yield from _clearance_faults(book, book.clearance)


def _chain_faults(book: EngineBook, path: str, chain: Chain) -> Iterator[Fault]:
    """The loop begins at its driver and runs over what there is, in one plane, over one arm."""
    if chain.loop[0] != chain.driver:
        yield Fault(f"{path}.loop", f"starts with {chain.loop[0]}", f"the driver {chain.driver}")
    faces = {**book.guides, **book.arms}
    for i, item in enumerate(chain.loop):
        if item not in book.sprockets and item not in faces:
            yield Fault(f"{path}.loop.{i}", f"no sprocket, guide or arm is called {item}")
    if sum(item in book.arms for item in chain.loop) > 1:
        yield Fault(f"{path}.loop", "more than one arm", "at most one that a tensioner moves")
    planes = {book.sprockets[item].plane for item in chain.loop if item in book.sprockets}
    if len(planes) > 1:
        yield Fault(
            f"{path}.loop",
            f"its sprockets lie in {', '.join(sorted(planes))}",
            "one drive plane",
        )
    for i, count in enumerate(chain.counts):
        for end in (count.start, count.end):
            if end not in chain.loop or end not in book.sprockets:
                yield Fault(f"{path}.counts.{i}", f"{end} is not a sprocket of this chain")


def _face_faults(book: EngineBook) -> Iterator[Fault]:
    """Guides and arms lie on their chain's loop and are not worn before their limit."""
    for group, faces in (("guides", book.guides), ("arms", book.arms)):
        for key, face in faces.items():
            path = f"{group}.{key}"
            yield from _missing(f"{path}.chain", face.chain, book.chains, "chain")
            if face.chain in book.chains and key not in book.chains[face.chain].loop:
                yield Fault(f"{path}.chain", f"{face.chain} does not run over it")
            if face.limit_wear_mm > face.liner_mm:
                yield Fault(
                    f"{path}.limit_wear_mm",
                    f"{face.limit_wear_mm} mm",
                    f"at most the liner's {face.liner_mm} mm",
                )
    for key, arm in book.arms.items():
        yield from _missing(f"arms.{key}.tensioner", arm.tensioner, book.tensioners, "tensioner")


def _tone_wheel_faults(book: EngineBook) -> Iterator[Fault]:
    """One crank wheel or no wheel at all, each channel once, and patterns that can be told."""
    for key, wheel in book.tone_wheels.items():
        yield from _missing(f"tone_wheels.{key}.shaft", wheel.shaft, book.shafts, "shaft")
    crank_wheels = sum(w.kind != "vanes" for w in book.tone_wheels.values())
    if crank_wheels > 1 or (book.tone_wheels and not crank_wheels):
        yield Fault(
            "tone_wheels",
            f"{crank_wheels} crank wheels",
            "one, of kind gap or edges, or no wheel at all",
        )
    channels = [w.channel for w in book.tone_wheels.values()]
    for channel in sorted({c for c in channels if channels.count(c) > 1}):
        yield Fault("tone_wheels", f"channel {channel} is used twice")
    yield from _vane_faults(book)


def _mark_faults(book: EngineBook) -> Iterator[Fault]:
    wheels = {**book.sprockets, **book.gears}
    for key, mark in book.marks.items():
        yield from _missing(f"marks.{key}.wheel", mark.wheel, wheels, "sprocket or gear")
        for field, others in (("carried_by", mark.carried_by), ("behind", mark.behind or [])):
            for other in others:
                yield from _missing(f"marks.{key}.{field}", other, book.components, "component")
    for i, mesh in enumerate(book.meshes):
        for gear in (mesh.driver, mesh.driven):
            yield from _missing(f"meshes.{i}", gear, book.gears, "gear")
    for i, position in enumerate(book.check_positions):
        for cam in position.cams:
            yield from _missing(f"check_positions.{i}.cams", cam, book.cams, "cam")
        if position.tool is not None:
            yield from _missing(f"check_positions.{i}.tool", position.tool, book.tools, "tool")
    for key, tool in book.tools.items():
        for shaft in tool.holds:
            yield from _missing(f"tools.{key}.holds", shaft, book.shafts, "shaft")


def _clearance_faults(book: EngineBook, clearance: Clearance) -> Iterator[Fault]:
    every = {c for bank in book.banks.values() for c in bank.cylinders}
    if set(clearance.fires_deg) != every:
        yield Fault(
            "clearance.fires_deg",
            f"gives cylinders {sorted(clearance.fires_deg)}",
            str(sorted(every)),
        )
    for key, group in clearance.valves.items():
        yield from _missing(f"clearance.valves.{key}.cam", group.cam, book.cams, "cam")
        for cylinder in sorted(set(group.cylinders) - every):
            yield Fault(f"clearance.valves.{key}.cylinders", f"there is no cylinder {cylinder}")
    for i, holding in enumerate(clearance.holding):
        for cam in holding.cams:
            yield from _missing(f"clearance.holding.{i}.cams", cam, book.cams, "cam")
        for group, cylinders in holding.followers_out.items():
            yield from _missing(
                f"clearance.holding.{i}.followers_out", group, clearance.valves, "valve group"
            )
            for cylinder in sorted(set(cylinders) - every):
                yield Fault(
                    f"clearance.holding.{i}.followers_out.{group}",
                    f"there is no cylinder {cylinder}",
                )


def _vane_faults(book: EngineBook) -> Iterator[Fault]:
    for key, wheel in book.tone_wheels.items():
        if wheel.kind == "vanes":
            flat = [edge for vane in wheel.vanes_deg for edge in vane]
            if flat != sorted(set(flat)) or flat[0] < 0 or flat[-1] >= 720:
                yield Fault(
                    f"tone_wheels.{key}.vanes_deg",
                    str(flat),
                    "edges that rise from 0 to below 720",
                )
        else:
            yield from _crank_wheel_faults(f"tone_wheels.{key}", wheel)


def _crank_wheel_faults(path: str, wheel: GapWheel | EdgeWheel) -> Iterator[Fault]:
    """A crank wheel must show where a turn begins: even teeth do not."""
    if isinstance(wheel, EdgeWheel):
        flat = [edge for tooth in wheel.teeth_deg for edge in tooth]
        if flat != sorted(set(flat)) or flat[0] < 0 or flat[-1] >= 360:
            yield Fault(f"{path}.teeth_deg", str(flat), "edges that rise from 0 to below 360")
            return
    else:
        for i, gap in enumerate(wheel.more_gaps):
            if gap.after + gap.missing > wheel.teeth - wheel.missing - 1:
                yield Fault(
                    f"{path}.more_gaps.{i}", f"lies beyond the wheel's {wheel.teeth} places"
                )
                return
    angles = crank_events_deg(wheel)
    steps = [round(b - a, 6) for a, b in zip(angles, [*angles[1:], angles[0] + 360.0], strict=True)]
    period = next(k for k in range(1, len(steps) + 1) if steps == steps[k:] + steps[:k])
    if period != len(steps):
        yield Fault(
            path,
            f"the pattern repeats {len(steps) // period} times a turn",
            "once; nothing shows where a turn begins",
        )


def _component_faults(book: EngineBook) -> Iterator[Fault]:
    parts = {
        **book.chains,
        **book.guides,
        **book.arms,
        **book.tensioners,
        **book.phasers,
        **book.sprockets,
        **book.gears,
    }
    for key, component in book.components.items():
        path = f"components.{key}"
        if component.part is not None:
            yield from _missing(
                f"{path}.part",
                component.part,
                parts,
                "chain, guide, arm, tensioner, phaser, sprocket or gear",
            )
        for field in ("covered_by", "comes_with", "renew_with", "fit_after", "remove_after"):
            for other in getattr(component, field):
                yield from _missing(f"{path}.{field}", other, book.components, "component")
        for fastener in component.fasteners:
            yield from _missing(f"{path}.fasteners", fastener, book.fasteners, "fastener")
        yield from shown_faults(book, path, component)
        for old, new in component.revised.bolts.items() if component.revised else ():
            field = f"{path}.revised.bolts.{old}"
            yield from _missing(field, old, component.fasteners, "fastener of this component")
            yield from _missing(field, new, book.fasteners, "fastener")
        yield from _task_faults(book, f"{path}.remove", component.remove)
        yield from _task_faults(book, f"{path}.fit", component.fit)


def _operation_faults(book: EngineBook) -> Iterator[Fault]:
    for key, operation in book.operations.items():
        path = f"operations.{key}"
        yield from _task_faults(book, path, operation)
        for field in ("needed_for", "and_for"):
            for component in getattr(operation, field):
                yield from _missing(f"{path}.{field}", component, book.components, "component")
        for field in ("before", "after"):
            for reference in getattr(operation, field):
                try:
                    verb, name = StepRef.of(reference)
                except KeyTextError:
                    yield Fault(
                        f"{path}.{field}",
                        reference,
                        "op:, remove:, fit: or torque: and a name",
                    )
                    continue
                if verb is Verb.OPERATION:
                    yield from _missing(f"{path}.{field}", name, book.operations, "operation")
                else:
                    yield from _missing(f"{path}.{field}", name, book.components, "component")


def _task_faults(book: EngineBook, path: str, task: Task) -> Iterator[Fault]:
    for caution in task.cautions:
        yield from _missing(f"{path}.cautions", caution, book.cautions, "caution")
    yield from _effect_faults(book, f"{path}.effects", task.effects)
    for observe in task_observations(task):
        if observe.kind == "count" and observe.expected is None:
            yield Fault(f"{path}.observe.expected", "a count needs the number expected")
        if observe.kind in ("word", "mark") and not set(observe.right) & set(observe.choices):
            yield Fault(f"{path}.observe.right", "none of the right answers is among the choices")
        if observe.kind == "mark":
            if not _is_contact(book, observe.contact):
                yield Fault(
                    f"{path}.observe.contact",
                    str(observe.contact),
                    "a chain/sprocket of this book",
                )
            for choice in observe.choices:
                if TeethOff.said(choice) is None:
                    yield Fault(
                        f"{path}.observe.choices",
                        f"“{choice}” names no number of teeth",
                        ", ".join(t.words for t in TeethOff),
                    )
            if any(TeethOff.said(c) not in (None, TeethOff.ON_MARK) for c in observe.right):
                yield Fault(f"{path}.observe.right", "a contact is right on its mark only")


def _effect_faults(book: EngineBook, path: str, effects: Effects) -> Iterator[Fault]:
    """What a task does is done to what the book has: a name that is nothing would prove nothing."""
    valves = book.clearance.valves if book.clearance else {}
    known: list[tuple[str, Any, str]] = [
        ("turned_by", book.components, "component"),
        ("by", book.tools, "tool"),
        ("reads", book.marks, "mark"),
        ("checks", {p.name for p in book.check_positions}, "check position"),
        ("phasers_locked", book.phasers, "phaser"),
        ("rounds", {k for k, f in book.fasteners.items() if f.shows}, "fastener that shows"),
        *((field, book.components, "component") for field in ("under", "loosened")),
        *((field, book.cams, "cam") for field in ("holds", "lets_go", "works", "frees_taper")),
        *(
            (field, book.chains, "chain")
            for field in ("slackens", "tightens", "chains_off", "chains_on")
        ),
        *((field, valves, "valve group") for field in ("followers_out", "followers_in")),
    ]
    for field, among, what in known:
        named: str | list[str] | None = getattr(effects, field)
        for name in [named] if isinstance(named, str) else named or []:
            yield from _missing(f"{path}.{field}", name, among, what)


def _is_contact(book: EngineBook, text: str | None) -> bool:
    try:
        chain, sprocket = Contact.of(text or "")
    except KeyTextError:
        return False
    return chain in book.chains and sprocket in book.chains[chain].loop


def task_observations(task: Task) -> list[Observe]:
    """All that must be seen in a task, in order."""
    return [*([task.observe] if task.observe else []), *task.observes]
