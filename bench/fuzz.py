"""Strange requests: schemathesis from the API's own schema, and a seeded mutator of right ones, in four roles.

`python -m bench.fuzz [--requests 25000]`. No answer is a 5xx, none has a status its route does not document, every refusal
is a problem with the security headers. What came back is printed by role and status.
"""

import argparse
import copy
import random
import re
import sys
import time
import uuid
import warnings
from collections import Counter
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from functools import partial
from typing import Any, NamedTuple

import httpx

from bench.house import cluster
from bench.serving import serving, signed_in

SEED = 20261125
ROLES = {"owner": 3, "lead": 0, "counter": 1, "stranger": None}
"""Which of the demo shop's people; a stranger is none of them."""
NASTY: tuple[Any, ...] = (
    None, True, 0, -1, 1e308, -1e308, 10**30, 2**31, 2**63, 2**64, "", " ", "\x00", "a\x00b", "\ud800", "²", "٣", "\U0001d7d9", "9" * 30, "x" * 5000,
    "0001-01-01", "9999-12-31", "0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-14:00", "2026-02-30", "1970-01-01T00:00:00Z", "%", "_", "\\",
    "'; drop table readings; --", "<script>", "../../etc", [], {}, [[]], {"kind": "look"}, [None] * 50, {"": ""}, "NaN", "Infinity", "null",
)  # fmt: skip


LOST = ("load the page again", "Sign in first")
OF_THE_LINE = {408, 414, 431}
"""Refused as it was said, before anybody knew which route it meant (`start/connection.py`)."""


class Sent(NamedTuple):
    """A request and what came back."""

    operation: str
    status: int
    fault: str | None


def valid(chance: random.Random, tag: int) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Requests that are right: method, path, body."""
    at = datetime.now(UTC).isoformat()

    def reading(kind: str, **body: Any) -> tuple[str, str, dict[str, Any]]:
        return (
            "POST",
            f"/api/batteries/{tag}/readings",
            {"id": str(uuid.UUID(int=chance.getrandbits(128))), "kind": kind, "taken_at": at, **body},
        )

    label = {
        "line": "Merlow Plain",
        "rating": {"amps": 640, "scale": "CCA"},
        "group_code": "48",
        "serial": "S1",
        "made_on": "2025-01-01",
    }
    take_in = {
        "battery": label, "context": {"came_in": "carried_in", "complaint": "clicks", "use": "private", "stop_start_car": False},
        "sold_on": "2025-05-05", "customer_name": "A. Fuzz", "customer_phone": "0555", "customer_plate": "X 1", "vehicle_id": 1,
    }  # fmt: skip
    yield "POST", "/api/batteries", take_in
    yield "PUT", f"/api/batteries/{tag}", {**take_in, "based_on": 1}
    yield "PUT", f"/api/batteries/{tag}/place", {"place": "bench", "needs_hand_at": at}
    yield "POST", f"/api/batteries/{tag}/claim", {"replacement_id": 3}
    yield "POST", f"/api/batteries/{tag}/erase-customer", {}
    yield (
        "POST",
        "/api/rules",
        {
            "school": "load_first",
            "values": {"decision.watch_months": 4, "steps.minutes": {"stand": 3}},
            "reason": "tried",
            "based_on": "2026.1",
        },
    )
    yield (
        "POST",
        "/api/match",
        {"requirement": {"group_code": "48", "min_cca_amps": 600, "chemistry": "efb", "also_codes": ["LN3"]}},
    )
    yield "POST", "/api/sign-in", {"staff_id": 1, "pin": "000000"}
    yield "POST", "/api/sign-in/lift", {"staff_id": 1, "lead_id": 1, "lead_pin": "000000"}
    yield reading("rest_volts", volts=12.5, temperature_c=20)
    yield reading("electronic_tester", measured_cca_amps=500, type_set="flooded")
    yield reading("cells", specific_gravities=[1.26] * 6, temperature_c=20)
    yield reading("look", marks=[{"sign": "wet_top", "across": 0.5}], levels=["right"] * 6)
    yield reading("adjustable_load", amps=300, seconds=15, volts=10.1)
    yield reading("charge_run", start_amps=6, amps=1, volts=14.4, hours=6, finished=True)
    yield reading("withdrawal", replaces=str(uuid.UUID(int=1)))
    check = {"kind": "rest_volts", "taken_at": at, "volts": 12.5}
    yield "POST", "/api/assess", {"format": "vane-check/1", "battery": label, "readings": [check]}
    for path in (
        "/api/checks?text=merlow&page=0", "/api/date-codes?code=C5&sold_on=2025-01-01", "/api/vehicles?text=till", "/api/shelf", "/api/reference",
        "/api/rules", "/api/me", "/api/people?door=x", f"/api/batteries/{tag}", f"/api/batteries/{tag}/life", f"/api/batteries/{tag}/warranty?replacement_id=1",
        f"/api/batteries/{tag}/match", f"/api/batteries/{tag}/check-file", f"/api/batteries/{tag}/slip.pdf", "/api/vehicles/1/match",
    ):  # fmt: skip
        yield "GET", path, {}


def mutated(chance: random.Random, body: Any) -> Any:
    """A body with one to three things in it gone wrong."""
    body = copy.deepcopy(body)
    for _ in range(chance.randrange(1, 4)):
        at: Any = body
        while isinstance(at, dict | list) and at:
            key = chance.choice(list(at)) if isinstance(at, dict) else chance.randrange(len(at))
            if isinstance(at[key], dict | list) and at[key] and chance.random() < 0.7:
                at = at[key]
                continue
            does = chance.random()
            if does < 0.12:
                del at[key]
            elif does < 0.2 and isinstance(at, dict):
                at[str(chance.choice(NASTY))] = copy.deepcopy(chance.choice(NASTY))
            else:
                at[key] = copy.deepcopy(chance.choice(NASTY))
            break
    return copy.deepcopy(chance.choice(NASTY)) if chance.random() < 0.03 else body


def mutated_path(chance: random.Random, path: str) -> str:
    """A path with a number or a word of its query gone wrong."""
    nasty = [one for one in NASTY if isinstance(one, str | int) and one != "\ud800"]
    if "?" in path and chance.random() < 0.7:
        base, query = path.split("?")
        pairs = [pair.split("=") for pair in query.split("&")]
        pair = chance.choice(pairs)
        pair[1] = str(httpx.QueryParams({"x": str(chance.choice(nasty))}))[2:]
        return base + "?" + "&".join("=".join(each) for each in pairs)
    return re.sub(
        r"(?<=/)\d+", lambda _: str(chance.choice((0, -1, 2**31, 2**63, 10**30, "abc", "%00", "²", 173))), path
    )


class Judge:
    """Holds every answer against what its route documents."""

    def __init__(self, schema: dict[str, Any]) -> None:
        self.routes = [
            (method.upper(), re.compile("^" + re.sub(r"\{\w+\}", "[^/]+", path) + "$"), f"{method.upper()} {path}", set(map(int, spec["responses"])))
            for path, methods in schema["paths"].items()
            for method, spec in methods.items()
        ]  # fmt: skip

    def __call__(self, method: str, path: str, answer: httpx.Response) -> Sent:
        bare = path.split("?")[0]
        for of, pattern, name, statuses in self.routes:
            if of == method and pattern.match(bare):
                return Sent(name, answer.status_code, self._fault(answer, statuses))
        return Sent("none", answer.status_code, self._fault(answer, {404, 405, 421}))

    @staticmethod
    def _fault(answer: httpx.Response, statuses: set[int]) -> str | None:
        if answer.status_code in OF_THE_LINE:
            return None
        if answer.status_code >= 500:
            return f"answered {answer.status_code}"
        if answer.status_code not in statuses:
            return f"{answer.status_code} is not documented"
        if answer.status_code >= 400 and answer.headers.get("content-type") != "application/problem+json":
            return f"{answer.status_code} is no problem"
        return None if "content-security-policy" in answer.headers else "no security headers"


def by_mutation(send: Callable[..., httpx.Response], judge: Judge, requests: int, seed: int) -> Iterator[Sent]:
    """Right requests gone wrong."""
    chance = random.Random(seed)
    done = 0
    while done < requests:
        for method, path, body in valid(chance, chance.choice((171, 173, 176, 184, 186))):
            if done >= requests:
                return
            done += 1
            if method == "GET" or chance.random() < 0.1:
                path = mutated_path(chance, path)
            headers = {"Idempotency-Key": str(uuid.UUID(int=chance.getrandbits(128)))}
            if method == "GET":
                yield judge(method, path, send(method, path, headers=headers))
                continue
            import json

            content = json.dumps(mutated(chance, body)).encode(errors="surrogatepass")
            if chance.random() < 0.03:
                content = content[: chance.randrange(len(content) + 1)] + bytes([chance.randrange(256)])
            headers["Content-Type"] = "application/json"
            yield judge(method, path, send(method, path, content=content, headers=headers))


def by_schema(send: Callable[..., httpx.Response], judge: Judge, schema: dict[str, Any], each: int) -> Iterator[Sent]:
    """What schemathesis makes of the schema, right and wrong alike."""
    import schemathesis
    from hypothesis import HealthCheck, Phase, given, settings
    from hypothesis import seed as seeded
    from schemathesis import GenerationMode

    warnings.simplefilter("ignore")
    found: list[Sent] = []
    for result in schemathesis.openapi.from_dict(schema).get_all_operations():
        operation: Any = result.ok()  # type: ignore[union-attr]
        if operation.path.endswith(("/events", "/sign-out", "/sign-in")):
            continue
        for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):

            def one(case: Any) -> None:
                request = case.as_transport_kwargs(base_url="http://127.0.0.1")
                url = httpx.URL(request["url"])
                headers = {
                    name: str(value)
                    for name, value in (request.get("headers") or {}).items()
                    if name.lower() not in {"cookie", "host"}
                }
                more: dict[str, Any] = {"params": request.get("params") or {}}
                if request.get("json") is not None:
                    more["json"] = request["json"]
                elif isinstance(request.get("data"), str | bytes):
                    more["content"] = request["data"]
                try:
                    answer = send(request["method"], url.path, headers=headers, **more)
                except (UnicodeEncodeError, ValueError, httpx.InvalidURL):
                    return  # nothing that HTTP can carry
                found.append(judge(request["method"], url.path, answer))

            try:
                run = given(case=operation.as_strategy(generation_mode=mode))(one)
                seeded(SEED)(
                    settings(
                        max_examples=each,
                        database=None,
                        deadline=None,
                        phases=[Phase.generate],
                        suppress_health_check=list(HealthCheck),
                    )(run)
                )()
            except (
                Exception
            ) as error:  # a strategy schemathesis cannot make (nothing can be wrong with a route without input)
                if type(error).__name__ not in {"Unsatisfiable", "SkipTest", "InvalidArgument"}:
                    raise
            yield from found
            found.clear()


def let_in(http: httpx.Client, who: int) -> None:
    """Sign in, after the waits that wrong PINs of the role before have cost."""
    while True:
        try:
            signed_in(http, who)
            return
        except httpx.HTTPStatusError as error:
            if error.response.status_code != 429:
                raise
            time.sleep(error.response.json()["wait_seconds"] or 1)


def sent_by(http: httpx.Client, who: int | None, method: str, path: str, **more: Any) -> httpx.Response:
    """A request of somebody who stays signed in: a strange one may have changed the store, or signed out."""
    answer = http.request(method, path, **more)
    if who is not None and answer.status_code in {401, 403} and any(one in answer.text for one in LOST):
        let_in(http, who)
    return answer


def main() -> int:
    """Run both and print what came back."""
    parser = argparse.ArgumentParser(prog="bench.fuzz")
    parser.add_argument("--requests", type=int, default=25_000)
    asked = parser.parse_args()
    import json

    from vane_check.api.schema import schema_text

    schema = json.loads(schema_text())
    judge, faults = Judge(schema), Counter[str]()
    by_role: dict[str, Counter[int]] = {role: Counter() for role in ROLES}

    def note(role: str, sent: Sent) -> int:
        if sent.fault:
            faults[f"as {role}, {sent.operation}: {sent.fault}"] += 1
        return sent.status

    each = asked.requests // len(ROLES) // 2
    with cluster() as found, serving(found.app_url) as base:
        for number, (role, who) in enumerate(ROLES.items()):
            with httpx.Client(base_url=base, timeout=60) as http:
                if who is not None:
                    let_in(http, who)

                send = partial(sent_by, http, who)
                made = by_schema(send, judge, schema, max(each // len(judge.routes) // 2, 1))
                by_role[role].update(note(role, sent) for sent in made)
                left = asked.requests // len(ROLES) - sum(by_role[role].values())
                by_role[role].update(note(role, sent) for sent in by_mutation(send, judge, left, SEED + number))
            print(
                f"as {role}: {sum(by_role[role].values())} requests, {dict(sorted(by_role[role].items()))}", flush=True
            )
    print(f"{sum(sum(one.values()) for one in by_role.values())} requests, {sum(faults.values())} faults")
    for fault, times in faults.most_common():
        print(f"{times:6} {fault}")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
