"""Runs many generated scripts in one process, so that pandas is imported once. Reads JSON lines, answers in kind."""

import json
import runpy
import sys
import traceback

import pandas  # noqa: F401 - imported once for all

for line in sys.stdin:
    job = json.loads(line)
    sys.argv = [job["script"], *job["args"]]
    try:
        runpy.run_path(job["script"], run_name="__main__")
        answer = {"exit": 0}
    except SystemExit as stop:
        answer = {"exit": stop.code or 0}
    except BaseException:
        answer = {"exit": 1, "error": traceback.format_exc()[-1500:]}
    print(json.dumps(answer), file=sys.__stdout__, flush=True)
