"""What a PIN costs to guess from its hash, against the advice on keeping passwords (OWASP, Password Storage Cheat Sheet:
argon2id with 19 MiB, two passes and one lane at the least; from memory)."""

import unittest

from argon2 import extract_parameters
from argon2.low_level import Type

from vane_check.desks.sign_in import hash_pin


class Cost(unittest.TestCase):
    def test_a_pin_costs_as_much_to_guess_as_is_advised(self) -> None:
        kept = extract_parameters(hash_pin("602741"))
        self.assertIs(kept.type, Type.ID)
        self.assertGreaterEqual(kept.memory_cost, 19 * 1024)
        self.assertGreaterEqual(kept.time_cost, 2)
        self.assertGreaterEqual(kept.salt_len, 16)

    def test_the_same_pin_is_never_hashed_alike(self) -> None:
        self.assertNotEqual(hash_pin("602741"), hash_pin("602741"))
