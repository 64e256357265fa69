"""Takes a reading of an item and reads the ranking, with Python's standard library alone.

    python3 docs/examples/take-a-reading.py http://127.0.0.1:4680 "Desk fans" Fenwhir 3.41

The study, the item and the value are examples; the measurand is the first one that is read.
"""

import json
import sys
import urllib.error
import urllib.request
import uuid
from datetime import datetime, timezone


def ask(address, method="GET", body=None):
    """One request to the API; what it answers. A refusal says in a sentence what is wrong."""
    request = urllib.request.Request(
        address,
        method=method,
        data=None if body is None else json.dumps(body).encode(),
        headers={} if body is None else {"Content-Type": "application/json"},
    )
    try:
        with urllib.request.urlopen(request) as answer:
            return json.load(answer)
    except urllib.error.HTTPError as refusal:
        problem = json.load(refusal)
        fields = "; ".join(f"{error['path']}: {error['message']}" for error in problem.get("errors", []))
        sys.exit(f"{problem['detail']} {fields}".strip())


def main(server, title, item_name, value):
    api = f"{server}/api/v1"
    study = next((entry["study"] for entry in ask(f"{api}/studies") if entry["study"]["title"] == title), None)
    if study is None:
        sys.exit(f"There is no study {title!r}.")
    at = f"{api}/studies/{study['id']}"
    item = next((item for item in ask(f"{at}/items") if item["name"] == item_name), None)
    if item is None:
        sys.exit(f"The study has no item {item_name!r}.")
    measurand = next(part for part in ask(f"{at}/measurands") if part["expression"] is None)
    readings = ask(f"{at}/readings")
    taken = [reading for reading in readings if reading["itemId"] == item["id"] and reading["measurandId"] == measurand["id"]]

    # The id is made here, so that the same request sent twice records one reading.
    ask(
        f"{at}/readings",
        "POST",
        {
            "id": str(uuid.uuid4()),
            "itemId": item["id"],
            "measurandId": measurand["id"],
            "sessionId": None,
            "round": 1 + max((reading["round"] for reading in taken), default=0),
            "place": len(readings),
            "levels": [],
            "parts": [{"name": "value", "text": value, "number": float(value)}],
            "source": "instrument",
            "takenAt": datetime.now(timezone.utc).isoformat().replace("+00:00", "Z"),
        },
    )

    for setting in ask(f"{at}/ranking?measurand={measurand['id']}")["settings"]:
        for group in setting["classes"]:
            print(group["answer"])
            for entry in group["ranking"]:
                low, high = entry["placeLow"], entry["placeHigh"]
                places = str(low) if low == high else f"{low} to {high}"
                print(f"  {entry['item']}: place {places}, mean {entry['mean']:.4g} {measurand['unit']}, n = {entry['n']}")


if __name__ == "__main__":
    if len(sys.argv) != 5:
        sys.exit(__doc__)
    main(*sys.argv[1:])
