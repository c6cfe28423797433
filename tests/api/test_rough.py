"""A short, seeded run of the rough benches: strange requests, and kills in mid work. `bench.fuzz` and `bench.kill` run long."""

import json
import os
import tempfile
import unittest
from pathlib import Path
from typing import Any

from bench.fuzz import Judge, by_mutation, by_schema
from bench.kill import run
from tests.house import LEAD, TEO, Client, app_on, database, filled_server
from vane_check.api.schema import schema_text


class Strange(unittest.TestCase):
    def test_no_answer_is_a_fault_of_ours(self) -> None:
        schema = json.loads(schema_text())
        judge = Judge(schema)
        for name, seed in ((LEAD, 1), (TEO, 2)):
            client = Client(app_on(database()), name)

            def send(method: str, path: str, client: Client = client, **more: Any) -> Any:
                return client.http.request(method, path, **more)

            faults = [f"{sent.operation}: {sent.fault}" for sent in by_mutation(send, judge, 260, seed) if sent.fault]
            faults += [f"{sent.operation}: {sent.fault}" for sent in by_schema(send, judge, schema, 3) if sent.fault]
            self.assertEqual(faults, [], name)


class Kills(unittest.TestCase):
    def test_what_was_acknowledged_is_there_once_and_whole(self) -> None:
        root = os.geteuid() == 0
        folder = Path(tempfile.mkdtemp(prefix="vane-kill-", dir="/var/lib" if root else None))
        folder.chmod(0o755)
        found = filled_server(folder)
        self.addCleanup(found.remove)
        acknowledged, wrong = run(found, 5, 7)
        self.assertEqual(wrong, [])
        self.assertGreater(acknowledged, 0)
