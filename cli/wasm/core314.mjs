/** The core on Python 3.14, without numpy, scipy or OR-Tools: every sheet given comes back as its bench answers it. */
import { readdirSync, readFileSync } from "node:fs";
import { pathToFileURL } from "node:url";

const [, , runtime, wheels, core, sheets] = process.argv;
const { loadPyodide } = await import(pathToFileURL(`${runtime}/pyodide.mjs`).href);
const python = await loadPyodide({ indexURL: `${runtime}/` });
for (const wheel of readdirSync(wheels)) python.unpackArchive(new Uint8Array(readFileSync(`${wheels}/${wheel}`)).buffer, "wheel");
python.FS.mkdir("/core");
python.mountNodeFS("/core", core);
python.globals.set("given", readFileSync(sheets, "utf8"));
const said = python.runPython(`
import json, sys
sys.path.insert(0, "/core")
for name in ("numpy", "scipy", "ortools", "django"):
    sys.modules[name] = None
from hurbin_core.catalogue import bench
from hurbin_core.logbook import Case, Entry
from typing import Any

def answer(sheet):
    b = bench(sheet["bench"])
    case = Case[b.entry].model_validate(sheet["case"])
    entries = [Entry[b.entry].model_validate(e) for e in sheet["entries"]]
    return b.evaluate(case, entries).model_dump(mode="json")

json.dumps({"python": sys.version.split()[0], "answers": [answer(s) for s in json.loads(given)]})
`);
process.stdout.write(said);
