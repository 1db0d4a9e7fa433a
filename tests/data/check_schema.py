"""Holds docs/document.schema.json against a standard validator (python3-jsonschema): it accepts the demo documents and
refuses every bad document of the tests, but for those marked as beyond what a schema can say.

Usage: check_schema.py SOURCE_FOLDER
"""
import json
import pathlib
import sys

import jsonschema

root = pathlib.Path(sys.argv[1])
schema = json.loads((root / "docs/document.schema.json").read_text())
jsonschema.Draft202012Validator.check_schema(schema)
validator = jsonschema.Draft202012Validator(schema)

faults = []
demos = sorted((root / "demo/documents").glob("*.json"))
for demo in demos:
    for error in validator.iter_errors(json.loads(demo.read_text())):
        faults.append(f"{demo.name} is refused: {error.json_path}: {error.message[:200]}")

refused = beyond = 0
for case in json.loads((root / "tests/data/bad_documents.json").read_text()):
    if "text" in case:
        continue  # not JSON at all
    valid = validator.is_valid(case["document"])
    if case.get("beyondSchema"):
        beyond += 1
        if not valid:
            faults.append(f"{case['what']}: is refused after all; take the mark away")
    elif valid:
        faults.append(f"{case['what']}: is accepted")
    else:
        refused += 1

print(f"{len(demos)} demo documents, {refused} refused, {beyond} beyond a schema")
print("\n".join(faults))
sys.exit(1 if faults or len(demos) == 0 or refused == 0 else 0)
