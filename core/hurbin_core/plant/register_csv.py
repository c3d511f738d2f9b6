"""The register as CSV: one row a pump set, in an open format that comes in as it went out."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from types import MappingProxyType

from pydantic import BaseModel, ValidationError

from ..base import Entered, HurbinError, Model, Problem, field_rules, header_of, plain, rows_of, table
from .kinds import COMPONENT_KINDS, kind
from .names import MOST, wrong_name
from .plates import ControlPlate, MotorPlate, PumpPlate, check_plate

SET_COLUMNS = (
    "service",
    "service_name",
    "tag",
    "name",
    "place",
    "nickname",
    "kind",
    "role",
    "pair",
    "control",
)
ROLES = ("duty", "standby", "single")
_PLATES: dict[str, type[BaseModel]] = {"motor": MotorPlate, "control": ControlPlate, "pump": PumpPlate}


# Columns that other rooms keep: of each what a cell comes to; HurbinError for one that is none.
Kept = Mapping[str, Callable[[str], str]]
_NONE: Kept = MappingProxyType({})


def columns(more: Iterable[str] = ()) -> list[str]:
    """The header, in order: set columns, those of other rooms, then `motor_…`, `control_…`, `pump_…` as on
    the plates.
    """
    plates = (f"{p}_{name}" for p, model in _PLATES.items() for name in model.model_fields)
    return [*SET_COLUMNS, *more, *plates]


class RegisterRow(Model):
    """One set as a row of the register. more: the cells of other rooms' columns, where they say something."""

    line: int
    service: str
    service_name: str
    tag: str
    name: str
    place: str
    nickname: str
    kind: str
    role: str
    pair: str
    control: str
    motor: MotorPlate
    control_plate: ControlPlate
    pump: PumpPlate
    more: dict[str, str] = {}


class RowRefused(Model):
    line: int
    tag: str
    problems: list[Problem]


def _cell(text: str, is_figure: bool) -> object:
    if not is_figure:
        return text
    figure, _, unit = text.partition("|")
    return Entered(text=figure.strip(), unit=unit.strip())


def _plate(model: type[BaseModel], prefix: str, row: dict[str, str], problems: list[Problem]) -> BaseModel:
    figures = field_rules(model)
    given: dict[str, object] = {}
    for name in model.model_fields:
        text = row.get(f"{prefix}_{name}", "")
        if text:
            given[name] = _cell(text, name in figures)
    try:
        if "phases" in given:
            given["phases"] = int(str(given["phases"]))
        return model.model_validate(given)
    except (ValidationError, ValueError) as error:
        where = error.errors()[0]["loc"][0] if isinstance(error, ValidationError) else "phases"
        value = str(given.get(str(where), ""))
        problems.append(
            Problem(
                code="cell_wrong",
                field=f"{prefix}_{where}",
                value=value,
                message=f"“{value}” is not allowed in {prefix}_{where}.",
            )
        )
        return model()


def parse_register(text: str, more: Kept = _NONE) -> tuple[list[RegisterRow], list[RowRefused]]:
    """What sets does this file hold? Good rows and refused rows, each refusal with its line and reason.

    Comma or semicolon, with or without a byte-order mark, columns in any order; a figure may carry its unit
    after a bar (`11|kW`). Raises `file_empty` and `header_wrong` for a file that is no register at all.
    """
    body = plain(text)
    if not body.strip():
        right = "a header line and a line per set"
        raise HurbinError("file_empty", "The file is empty.", field="file", right=right)
    header = header_of(body)
    lacking = [c for c in ("service", "tag", "kind") if c not in header]
    known = columns(more)
    strange = [h for h in header if h not in known]
    if lacking or strange:
        said = (
            f"Missing columns in the header: {', '.join(lacking)}."
            if lacking
            else f"Unknown columns in the header: {', '.join(strange[:6])}."
        )
        raise HurbinError("header_wrong", said, field="file", right=", ".join(known[:10]) + ", …")
    rows: list[RegisterRow] = []
    refused: list[RowRefused] = []
    seen: dict[str, int] = {}
    for line, cells in rows_of(body):
        row = dict(zip(header, cells, strict=False))
        problems: list[Problem] = []
        cell = {k: row.get(k, "") for k in SET_COLUMNS}
        if not any(cell.values()):
            continue
        plates = {p: _plate(model, p, row, problems) for p, model in _PLATES.items()}
        _check_row(cell, plates, seen, line, problems)
        others = _others(row, more, problems)
        if problems:
            refused.append(RowRefused(line=line, tag=cell["tag"], problems=problems))
            continue
        cell["role"] = cell["role"] or "single"
        cell["service_name"] = cell["service_name"] or cell["service"]
        cell["name"] = cell["name"] or cell["tag"]
        rows.append(
            RegisterRow.model_validate(
                {
                    **cell,
                    "line": line,
                    "motor": plates["motor"],
                    "control_plate": plates["control"],
                    "pump": plates["pump"],
                    "more": others,
                }
            )
        )
    return rows, refused


def _others(row: dict[str, str], more: Kept, problems: list[Problem]) -> dict[str, str]:
    """The cells of other rooms' columns as they are kept; a problem for each that is none."""
    out: dict[str, str] = {}
    for name, check in more.items():
        if row.get(name, "").strip():
            try:
                out[name] = check(row[name].strip())
            except HurbinError as error:
                problems.append(Problem.of(error).model_copy(update={"field": name}))
    return out


def _check_row(
    cell: dict[str, str],
    plates: dict[str, BaseModel],
    seen: dict[str, int],
    line: int,
    problems: list[Problem],
) -> None:
    def refuse(field: str, message: str, right: str = "") -> None:
        problems.append(
            Problem(code="row_refused", field=field, value=cell.get(field, ""), message=message, right=right)
        )

    for need in ("service", "tag", "kind"):
        if not cell[need]:
            refuse(need, f"{need} is empty.")
    for name in MOST:
        wrong = wrong_name(name, cell[name])
        if wrong:
            refuse(name, f"{name} is not taken: {wrong}.")
    if cell["tag"] in seen:
        refuse("tag", f"{cell['tag']} is already in line {seen[cell['tag']]}.")
    seen.setdefault(cell["tag"], line)
    if cell["kind"]:
        try:
            kind(cell["kind"])
        except HurbinError as error:
            refuse("kind", error.message, error.right)
    if cell["role"] and cell["role"] not in ROLES:
        refuse("role", f"“{cell['role']}” is not a role.", ", ".join(ROLES))
    if cell["control"] and COMPONENT_KINDS.get(cell["control"]) != "control":
        refuse("control", f"“{cell['control']}” is not a motor starter.", "starter, soft_starter, drive")
    for prefix, plate in plates.items():
        for p in check_plate(plate)[0]:  # type: ignore[arg-type]
            problems.append(p.model_copy(update={"field": f"{prefix}_{p.field}"}))


def write_register(rows: list[dict[str, str]], more: Iterable[str] = ()) -> str:
    """The file for these rows. A cell that a spreadsheet would take for a formula gets a leading
    apostrophe.
    """
    known = columns(more)
    return table(known, [[row.get(c, "") for c in known] for row in rows])


def plate_cells(prefix: str, plate: BaseModel) -> dict[str, str]:
    """A plate as cells of its row: a figure with its unit after a bar, as typed."""
    out: dict[str, str] = {}
    for name in type(plate).model_fields:
        v = getattr(plate, name)
        if isinstance(v, Entered):
            out[f"{prefix}_{name}"] = f"{v.text}|{v.unit}" if v.unit else v.text
        elif v not in (None, "", False):
            out[f"{prefix}_{name}"] = str(v)
    return out
