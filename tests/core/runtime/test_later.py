import subprocess
import sys
import unittest

# All that is imported late, by threads that change places as often as can be.
_TOGETHER = """
import sys, threading
import numpy as np
sys.setswitchinterval(1e-6)
from zittern.core.numbers.interpolate import smooth_slopes
from zittern.core.rig.rotations import quaternions
from zittern.core.sources.take import without_drift
turn = np.eye(3)[None]
jobs = [
    lambda: smooth_slopes(np.arange(5.0), np.array([0.0, 1.0, 3.0, 2.0, 2.5]), False, False),
    lambda: without_drift(np.sin(np.arange(400.0)), 0.5, 24.0),
    lambda: quaternions(turn),
]
faults, start = [], threading.Barrier(3 * len(jobs))
def run(job):
    start.wait()
    try:
        job()
    except Exception as error:
        faults.append(repr(error))
threads = [threading.Thread(target=run, args=(job,)) for job in jobs * 3]
for thread in threads: thread.start()
for thread in threads: thread.join()
sys.exit("\\n".join(faults) or 0)
"""


class Later(unittest.TestCase):
    def test_threads_that_import_at_once_all_get_whole_modules(self) -> None:
        for _ in range(3):
            done = subprocess.run([sys.executable, "-c", _TOGETHER], capture_output=True, text=True)
            self.assertEqual((done.returncode, done.stderr), (0, ""))
