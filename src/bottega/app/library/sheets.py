"""Write model sheets: new, extended from a job, edited raw, exchanged. Every save is a revision;
what is broken is not taken."""

import re
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter
from typing import Any

from pydantic import BaseModel

from bottega.app.errors import BadValue, NotFound, Stale
from bottega.app.library.revisions import said_since
from bottega.app.values import number, shown, whole
from bottega.app.workshop import Workshop
from bottega.core.csvtext import CsvError, lines_of
from bottega.core.library.consistency import check_machine
from bottega.core.library.errors import LibraryError, Problem
from bottega.core.library.machine_type import MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.core.library.shelf import shipped_shelf
from bottega.core.library.tables import validated
from bottega.core.library.yamlfile import Path_, YamlSource, at_path, documents, parse_yaml, written
from bottega.core.panel.decoder import PanelError, refuse_impossible
from bottega.core.panel.notation import parsed
from bottega.core.wording import sentence
from bottega.store.sheets import SheetMoved

DIVIDER = "\n---\n"
MOST_TABLE_CODES = 500
"""Codes of a table; chosen, no panel shows as many."""
MOST_REVISIONS = 10**6
"""Revisions a form may have seen; chosen, beyond every sheet."""
Change = tuple[Path_, Any]
"""A value and where it is set: its keys from the top."""
LONGEST_NOTE = 2000
"""Characters of a note; chosen, a page of typing."""
MOST_FASTENERS = 200
"""As the record of a fastener allows."""
CSV_COLUMNS = ("code", "shows", "name", "reads", "stored", "family")


class BrokenSheet(BadValue):
    """A sheet that cannot be taken; carries every problem with its line."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__(str(problems[0]), "text")
        self.problems = problems


class _OnlyItsPanel(BaseModel):
    """A sheet of which nothing but the panel is looked at."""

    panel: PanelRecord | None = None


def panel_as_typed(text: str) -> PanelRecord | None:
    """Return the panel of a sheet that is being written, whatever else is wrong with it yet; None
    where it has none. Raises BrokenSheet with what is wrong with the panel."""
    try:
        source = parse_yaml(text.replace("\r\n", "\n").encode(), "sheet.yaml")
        return validated(_OnlyItsPanel, source).panel
    except LibraryError as error:
        raise BrokenSheet(error.problems) from error


@dataclass(frozen=True)
class Incoming:
    """One sheet of an import: its text, its id, and whether a sheet of that id is here already."""

    sheet: str
    text: str
    collides: bool


def text_of(workshop: Workshop, sheet: str) -> str:
    """Return a sheet's YAML as written. Raises NotFound."""
    if sheet not in workshop.shelf.sheets:
        raise NotFound(f"Found no sheet '{sheet}'.")
    return workshop.shelf.sources[sheet].text


def save(
    workshop: Workshop,
    text: str,
    author: str,
    expected: str | None = None,
    *,
    seen: int | None = None,
) -> MachineType:
    """Take a sheet's YAML as a new revision and return its machine type.

    Raises BrokenSheet with every problem and its line, BadValue when the id is not the one
    expected, Stale when the sheet was saved by somebody else since; then nothing is changed.
    """
    text = text.replace("\r\n", "\n")
    try:
        source = parse_yaml(text.encode(), f"{expected or 'sheet'}.yaml")
        trial = workshop.shelf.with_sheet(source)
    except LibraryError as error:
        raise BrokenSheet(error.problems) from error
    sheet = str(source.data["sheet"])
    machine = trial.machine(trial.sheets[sheet].archetype, sheet)
    if not re.fullmatch(r"[a-z0-9][a-z0-9-]{0,58}", sheet):
        raise BadValue(
            f"Found the id '{sheet}', expected small letters, figures and hyphens.", "text"
        )
    if expected is not None and sheet != expected:
        raise BadValue(
            f"Found the id '{sheet}', expected '{expected}'. A new id is a new sheet.", "text"
        )
    problems = check_machine(trial, machine.archetype, sheet)
    if problems:
        raise BrokenSheet(problems)
    with workshop.sheets_turn:
        present = workshop.sheets.seq(sheet)
        if seen is not None and seen != present:
            since = said_since(_data_at(workshop, sheet, seen), _data_at(workshop, sheet, present))
            raise Stale(
                f"Somebody else saved this sheet since you opened it: {since}. Copy your changes, "
                "load it again and put them in."
            )
        try:
            workshop.sheets.append(sheet, text, author, workshop.now(), present)
        except SheetMoved as error:
            raise Stale(
                "Somebody else saved this sheet at the same moment. Send it again."
            ) from error
        workshop.saved(source)
    return machine


def change(
    workshop: Workshop, sheet: str, author: str, fields: dict[str, str], *changes: Change
) -> MachineType:
    """Set values of a sheet as it stands now, and return its machine type; nobody saves it between
    the reading and the writing. ``fields`` carry as ``seen`` the revision its form was made from.

    What stands there already is not written again. Raises what ``save`` raises, NotFound, and Stale
    with both values where somebody else has set the same one since.
    """
    with workshop.sheets_turn:
        text = text_of(workshop, sheet)
        now, seen = parse_yaml(text.encode(), sheet).data, fields.get("seen", "")
        todo = [one for one in changes if not _stands(now, one)]
        if not todo:
            return workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
        if seen:
            _refuse_overtaken(
                workshop, sheet, whole(seen, "seen", 0, MOST_REVISIONS), now, changes=todo
            )
        return save(workshop, written(text, *todo), author, sheet)


def _refuse_overtaken(
    workshop: Workshop, sheet: str, seen: int, now: Any, *, changes: list[Change]
) -> None:
    """Raise Stale where a value was set by somebody else after the revision that was seen."""
    then = _data_at(workshop, sheet, seen)
    for path, value in changes:
        before, present = at_path(then, path), at_path(now, path)
        if before != present and not isinstance(present, list):
            raise Stale(
                f"{'.'.join(str(part) for part in path)}: somebody else has put {shown(present)} "
                f"since you opened the form, and you wrote {shown(value)}. Nothing of yours was "
                "written; send it again if yours is to stand."
            )


def _data_at(workshop: Workshop, sheet: str, seen: int) -> Any:
    """Return what a sheet said after so many revisions; as it was shipped before the first."""
    kept = {revision.seq: revision.text for revision in workshop.sheets.of(sheet)}
    shipped = shipped_shelf().sources.get(sheet)
    text = kept.get(seen, shipped.text if shipped else f"sheet: {sheet}\n")
    return parse_yaml(text.encode(), sheet).data


def _stands(data: Any, change: Change) -> bool:
    """Return whether a value is there already; the last of a list where it is appended."""
    path, value = change
    present = at_path(data, path)
    if isinstance(present, list) and not isinstance(value, list):
        return bool(present) and present[-1] == value
    return bool(present == value)


def new_sheet(
    workshop: Workshop,
    maker: str,
    model: str,
    archetype: str,
    *,
    plate: dict[str, str],
    author: str,
) -> MachineType:
    """Make a sheet with its title and rating plate; the rest is added while working. Raises
    BadValue."""
    if not maker.strip() or not model.strip():
        raise BadValue("A sheet wants a maker and a model.", "maker")
    sheet = re.sub(r"[^a-z0-9]+", "-", f"{maker} {model}".lower()).strip("-")[:58]
    if not sheet:
        raise BadValue(
            "Write the maker or the model with at least one Latin letter or figure; it makes "
            "the sheet's id.",
            "maker",
        )
    if sheet in workshop.shelf.sheets:
        raise BadValue(f"There is a sheet '{sheet}' already. Open that one.", "model")
    read: dict[tuple[str | int, ...], Any] = {
        ("plate", key): value.strip() if key == "serial" else number(value, key)
        for key, value in plate.items()
        if value.strip()
    }
    named: dict[tuple[str | int, ...], Any] = {
        ("maker",): maker.strip(),
        ("model",): model.strip(),
        ("archetype",): archetype,
    }
    text = written(f"# Begun at the bench.\nsheet: {sheet}\n", *{**named, **read}.items())
    return save(workshop, text, author, sheet)


def add_value(workshop: Workshop, sheet: str, fields: dict[str, str], author: str) -> MachineType:
    """Write an expected value read off the maker's paper, or remembered, into a sheet. Raises
    BadValue, NotFound."""
    machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
    own = (c.measure for c in machine.checks.values() if c.measure)
    kind = next((m.quantity for m in own if m.value == fields.get("key")), None)
    unit = workshop.shelf.tables.quantities[kind].unit if kind else ""
    window = {
        "low": number(fields.get("low", ""), "low"),
        "high": number(fields.get("high", ""), "high"),
        "unit": fields.get("unit", "").strip() or unit,
        "source": fields.get("source", "").strip() or f"noted by {author}",
        "grade": fields.get("grade", "").strip(),
    }
    return change(workshop, sheet, author, fields, (("values", fields.get("key", "")), window))


def add_note(workshop: Workshop, sheet: str, note: str, author: str) -> MachineType:
    """Append a note to a sheet; the same once more changes nothing. Raises BadValue, NotFound."""
    if not note.strip():
        raise BadValue("The note is empty.", "note")
    if len(note) > LONGEST_NOTE:
        raise BadValue(
            f"Found a note of {len(note)} characters, expected at most {LONGEST_NOTE}.", "note"
        )
    with workshop.sheets_turn:
        has_notes = bool(workshop.shelf.sheets[sheet].notes)
        words = note.strip() if has_notes else [note.strip()]
        return change(workshop, sheet, author, {}, (("notes",), words))


def add_code(workshop: Workshop, sheet: str, fields: dict[str, str], author: str) -> MachineType:
    """Write a code into a sheet's table. ``shows`` is "3 2", "1 0 1 0 0" or what the display shows.
    Raises BadValue."""
    record = _code(workshop, sheet, fields)
    return change(workshop, sheet, author, fields, (("codes", fields["code"].strip()), record))


def add_fastener(
    workshop: Workshop, sheet: str, fields: dict[str, str], author: str
) -> MachineType:
    """Write the fasteners of one operation as this model has them. Raises BadValue, NotFound."""
    with workshop.sheets_turn:
        machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
        operation = machine.operations.get(fields.get("operation", ""))
        if operation is None:
            raise BadValue("Choose which operation the fasteners belong to.", "operation")
        record = operation.model_dump(mode="json", exclude_defaults=True)
        fastener = {
            key: fields[key].strip()
            for key in ("kind", "size", "head", "place", "hand")
            if fields.get(key, "").strip()
        }
        record["fasteners"] = [
            {**fastener, "count": whole(fields.get("count", ""), "count", 1, MOST_FASTENERS)}
        ]
        return change(
            workshop, sheet, author, fields, (("operations", fields["operation"]), record)
        )


def codes_from_csv(workshop: Workshop, sheet: str, raw: bytes) -> list[dict[str, str]]:
    """Return the rows of a code table in CSV, commas or semicolons, for a preview. Raises BadValue
    naming the line."""
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise BadValue("The table is not text in UTF-8.", "file") from error
    first = text.split("\n", 1)[0]
    try:
        lines = list(
            lines_of(text, MOST_TABLE_CODES, ";" if first.count(";") > first.count(",") else ",")
        )
    except CsvError as error:
        raise BadValue(sentence(error), "file") from error
    head = lines[0][1] if lines else []
    missing = [name for name in CSV_COLUMNS[:5] if name not in head]
    if missing:
        raise BadValue(
            f"Line 1: found no column '{missing[0]}', expected {', '.join(CSV_COLUMNS)}.", "file"
        )
    rows: list[dict[str, str]] = []
    for place, line in lines[1:]:
        told = dict(zip(head, line, strict=False))
        clean = {key: told.get(key, "").strip() for key in CSV_COLUMNS}
        try:
            _code(workshop, sheet, clean)
        except BadValue as error:
            raise BadValue(f"Line {place}: {error}", "file") from error
        rows.append(clean)
    if not rows:
        raise BadValue("The table holds no codes.", "file")
    return rows


def take_codes(
    workshop: Workshop, sheet: str, rows: list[dict[str, str]], author: str, *, seen: str = ""
) -> MachineType:
    """Write a previewed code table into a sheet as one revision; ``seen`` is the revision its form
    was made from. Raises BadValue, BrokenSheet, Stale."""
    if not rows or any(not row.get("code", "").strip() for row in rows):
        raise BadValue("The preview was lost on the way. Bring the table in again.", "file")
    changes = [(("codes", row["code"].strip()), _code(workshop, sheet, row)) for row in rows]
    return change(workshop, sheet, author, {"seen": seen}, *changes)


def export_all(workshop: Workshop) -> str:
    """Return every sheet as one YAML stream, comments and all."""
    return (
        DIVIDER.join(text_of(workshop, sheet).strip("\n") for sheet in workshop.shelf.sheets) + "\n"
    )


def incoming(workshop: Workshop, raw: bytes) -> list[Incoming]:
    """Return the sheets of an import, each proved to fit, and which collide; one that is like
    another of them comes after it. Raises BrokenSheet."""
    found, shelf = [], workshop.shelf
    try:
        texts = documents(raw, "import.yaml")
        for source in _first_alike([parse_yaml(text.encode(), "import.yaml") for text in texts]):
            shelf = shelf.with_sheet(source)
            sheet = str(source.data["sheet"])
            found.append(Incoming(sheet, source.text, sheet in workshop.shelf.sheets))
    except LibraryError as error:
        raise BrokenSheet(error.problems) from error
    if not found:
        raise BadValue("The file holds no sheet.", "file")
    return found


def _first_alike(sources: list[YamlSource]) -> list[YamlSource]:
    """Return the sheets, each after the one it is like if that is among them; of a circle as they
    come."""
    order = TopologicalSorter({_named(s, "sheet"): {_named(s, "like")} for s in sources})
    try:
        place = {name: n for n, name in enumerate(order.static_order())}
    except CycleError:
        return sources
    return sorted(sources, key=lambda source: place[_named(source, "sheet")])


def _named(source: YamlSource, key: str) -> str:
    return str(source.data.get(key, "")) if isinstance(source.data, dict) else ""


def take_incoming(
    workshop: Workshop, sheets: list[Incoming], choices: dict[str, str], author: str
) -> list[str]:
    """Save imported sheets: what collides is kept, replaced, or taken as a new one as chosen.
    Return what was saved."""
    undecided = [
        item.sheet
        for item in sheets
        if item.collides and choices.get(item.sheet) not in ("keep", "replace", "new")
    ]
    if undecided:
        raise BadValue(
            f"'{undecided[0]}' is here already: keep it, replace it, or take the other as a "
            "new one.",
            "choice",
        )
    saved = []
    for item in sheets:
        choice = choices.get(item.sheet, "replace")
        if item.collides and choice == "keep":
            continue
        text, sheet = item.text, item.sheet
        if item.collides and choice == "new":
            sheet = next(
                name
                for n in range(2, 1000)
                if (name := f"{item.sheet}-{n}") not in workshop.shelf.sheets
            )
            text = written(text, (("sheet",), sheet))
        save(workshop, text, author, sheet)
        saved.append(sheet)
    return saved


def _code(workshop: Workshop, sheet: str, fields: dict[str, str]) -> dict[str, Any]:
    panel = workshop.shelf.sheet(sheet).panel if sheet in workshop.shelf.sheets else None
    if panel is None:
        raise BadValue(
            "This sheet has no panel yet; write how it shows its codes first, in the raw sheet.",
            "code",
        )
    code, shows = fields.get("code", "").strip(), fields.get("shows", "").strip()
    if not code or not shows:
        raise BadValue("A code wants its name and what the panel shows.", "code")
    try:
        shown = parsed(panel, shows)
        if not isinstance(shown, str):
            refuse_impossible(panel, shown)
    except PanelError as error:
        raise BadValue(sentence(error), "shows") from error
    record: dict[str, Any] = {"text": shows} if isinstance(shown, str) else {"show": list(shown)}
    stored: dict[str, str] = {}
    for pair in filter(None, (p.strip() for p in re.split(r"[|/]", fields.get("stored", "")))):
        state, _, word = pair.partition("=")
        stored[state.strip()] = word.strip() or "usually"
    record.update(
        name=fields.get("name", "").strip(), reads=fields.get("reads", "").strip(), stored=stored
    )
    if fields.get("family", "").strip():
        record["family"] = fields["family"].strip()
    return record
