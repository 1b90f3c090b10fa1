/** What begins a line that says how many rows have passed each step so far, as JSON; no sentence of a script begins so. */
export const progressMark = '\u001epassed '

/**
 * Stands before a story's script where the server runs it: a thread that says each second of which steps more rows have passed,
 * by the counts that the script keeps for its accounts. Spark adds to them as tasks end.
 */
export const progressScript = String.raw`import json
import sys
import threading
import time


def tell_progress():
    told = {}
    while True:
        time.sleep(1)
        counters = globals().get("rows_left")
        if not counters:
            continue
        passed = {}
        for (step, _), rows in list(counters[0].value.items()):
            passed[step] = passed.get(step, 0) + rows
        more = {step: rows for step, rows in passed.items() if told.get(step) != rows}
        told.update(more)
        if more:
            print("\x1epassed " + json.dumps(more), file=sys.stderr, flush=True)


threading.Thread(target=tell_progress, daemon=True).start()

`
