"""The same log gives the same order on every machine: nothing hangs on how Python hashes words."""

import os
import subprocess
import sys
from pathlib import Path

LEFT = Path(__file__).parents[2] / "written_by_0_1"


def test_plan_and_ranking_do_not_depend_on_the_hash_seed():
    def said(hash_seed):
        return subprocess.run(
            [
                sys.executable,
                "-m",
                "bottega",
                "diagnose",
                str(LEFT / "job-0412.json"),
                "--json",
            ],
            env={**os.environ, "PYTHONHASHSEED": hash_seed},
            capture_output=True,
            text=True,
            check=True,
        ).stdout

    first = said("0")
    assert first.count('"probability"') > 10
    assert said("77") == first
