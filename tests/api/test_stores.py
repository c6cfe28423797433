"""Several stores of one owner: opened, given, sent between, side by side; nothing else crosses."""

import unittest
import uuid
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from typing import Any

import psycopg

from tests.english import TestClient
from tests.house import HERE, LEAD, NOOR, OWNER_NAME, PINS, TEO, Client, app_on, as_app, database
from vane_check.demo import catalogue


class Stores(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.url = database()
        app = app_on(cls.url)
        cls.owner, cls.teo, cls.lead = Client(app, OWNER_NAME), Client(app, TEO), Client(app, LEAD)
        cls.there = Client(app, OWNER_NAME)
        cls.branch = cls.number(catalogue.BRANCH)
        cls.enter(cls.there, cls.branch)

    @classmethod
    def number(cls, name: str) -> int:
        return int(next(one["id"] for one in cls.owner.get("/stores").json()["stores"] if one["name"] == name))

    @staticmethod
    def enter(client: Client, store_id: int) -> Any:
        found = client.http.post(f"/api/stores/{store_id}/enter", json={})
        if found.status_code == 201:
            client.me = found.json()
            client.http.headers["X-Vane-CSRF"] = client.me["csrf_token"]
        return found

    def owner_again(self) -> Client:
        """The owner at another screen; where more than one store is manned its address carries the door."""
        client = Client.__new__(Client)
        client.http = TestClient(app_on(self.url), base_url=HERE)
        client.sign_in(OWNER_NAME, PINS[OWNER_NAME], door=self.owner.me["store"]["door"])
        return client

    def sql(self, statement: str, *values: Any) -> list[tuple[Any, ...]]:
        with psycopg.connect(self.url, autocommit=True) as connection:
            done = connection.execute(statement, values)
            return done.fetchall() if done.description else []

    def going(self, client: Client, **what: Any) -> dict[str, Any]:
        found = [one for one in client.get("/stores").json()["on_the_way"] if what.items() <= one.items()]
        self.assertEqual(len(found), 1, what)
        return dict(found[0])

    def taken_in(self, client: Client, **more: Any) -> int:
        body = {"battery": {"line": "Merlow Silver", "rating": {"amps": 680}, "serial": "ms 1-77"}, "customer_name": "E. Quarm",
                "customer_phone": "0555 0177", "context": {"came_in": "carried_in", "complaint": "slow_crank", "use": "private"}, **more}  # fmt: skip
        return int(client.send("POST", "/batteries", body).json()["tag"])

    def read(self, client: Client, tag: int, **reading: Any) -> str:
        name = str(uuid.uuid4())
        body = {"id": name, "taken_at": datetime.now(UTC).isoformat(), **reading}
        found = client.send("POST", f"/batteries/{tag}/readings", body)
        self.assertIn(found.status_code, (200, 201), found.text)
        return name


class Sending(Stores):
    def test_a_battery_goes_with_all_that_was_read_and_is_on_both_shelves_meanwhile(self) -> None:
        tag = self.taken_in(self.teo, promised_at="2027-03-01T10:00:00Z")
        self.read(self.teo, tag, kind="look", marks=[])
        first = self.read(self.teo, tag, kind="rest_volts", volts=12.31, temperature_c=20)
        self.read(self.teo, tag, kind="rest_volts", volts=12.41, temperature_c=20, replaces=first)
        before = self.teo.get(f"/batteries/{tag}").json()
        sent = self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag, "note": "by van"})
        self.assertEqual(sent.status_code, 201)
        shelf = {one["tag"]: one["place"] for one in self.teo.get("/shelf").json()}
        self.assertEqual(shelf[tag], "on_the_way")
        coming = self.going(self.there, kind="battery", tag=tag)
        self.assertEqual((coming["coming"], coming["subject"], coming["whose"], coming["note"], coming["sent_by"]),
                         (True, "Merlow Silver", "E. Quarm", "by van", TEO))  # fmt: skip
        for method, path, body in (
            ("PUT", f"/batteries/{tag}/place", {"place": "bench"}),
            ("POST", f"/batteries/{tag}/readings", {"id": str(uuid.uuid4()), "kind": "look", "marks": [], "taken_at": datetime.now(UTC).isoformat()}),
            ("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag}),
        ):  # fmt: skip
            found = self.teo.send(method, path, body)
            self.assertEqual((found.status_code, "on its way to" in found.text), (409, True), path)
        at_home = self.teo.send("POST", f"/stores/sends/{coming['id']}/arrived", {})
        self.assertEqual(at_home.status_code, 409, "only where it goes to can it arrive")

        found = self.there.send("POST", f"/stores/sends/{coming['id']}/arrived", {})
        there = self.there.get(f"/batteries/{found.json()['tag']}").json()

        def says(view: Any) -> list[tuple[Any, ...]]:
            return [
                (one["reading"]["kind"], one["reading"].get("volts"), one["who"], one["corrected"])
                for one in view["readings"]
            ]

        self.assertEqual(says(there), says(before))
        self.assertEqual(there["judgement"]["headline"], before["judgement"]["headline"])
        self.assertEqual(
            (there["customer_name"], there["battery"]["serial"], there["promised_at"]),
            ("E. Quarm", "ms 1-77", "2027-03-01T10:00:00Z"),
        )
        self.assertNotIn(tag, {one["tag"] for one in self.teo.get("/shelf").json()})
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["place"], "gone")
        put = self.teo.send("PUT", f"/batteries/{tag}/place", {"place": "bench"})
        self.assertEqual((put.status_code, f"carries tag {there['tag']} there" in put.text), (409, True))
        again = self.there.send("POST", f"/stores/sends/{coming['id']}/arrived", {})
        self.assertEqual(again.status_code, 409, "it arrives once")
        self.assertEqual(
            self.sql("select body from transfers where id = %s", coming["id"]),
            [({},)],
            "nobody's name stays on the way",
        )
        self.assertNotIn(
            TEO,
            [one["name"] for one in self.there.get("/house").json()["people"]],
            "an author by name alone works nowhere",
        )

    def test_what_cannot_travel_stays(self) -> None:
        for tag, said in ((183, "unsafe or held apart"),):
            found = self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag})
            self.assertEqual((found.status_code, said in found.text), (409, True))
        here = self.teo.me["store"]["id"]
        found = self.teo.send("POST", "/stores/sends", {"to_store_id": here, "tag": 173})
        self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "to_store_id"))
        found = self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": 173, "piece_id": 1})
        self.assertEqual(found.status_code, 422, "one thing at a time")
        found = self.teo.send("PUT", "/batteries/173/place", {"place": "on_the_way"})
        self.assertEqual(found.status_code, 422, "nothing is on its way that was not sent")

    def test_called_back_it_stands_at_the_counter_again_and_does_not_arrive(self) -> None:
        tag = self.taken_in(self.teo)
        self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag})
        row = self.going(self.teo, kind="battery", tag=tag)
        self.assertEqual(
            self.there.send("POST", f"/stores/sends/{row['id']}/called-back", {}).status_code, 409, "who sent it calls"
        )
        self.assertEqual(self.teo.send("POST", f"/stores/sends/{row['id']}/called-back", {}).status_code, 201)
        self.assertEqual(self.teo.get(f"/batteries/{tag}").json()["place"], "counter")
        self.assertEqual(self.there.send("POST", f"/stores/sends/{row['id']}/arrived", {}).status_code, 409)
        self.assertEqual(
            self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag}).status_code,
            201,
            "and may go later",
        )

    def test_a_piece_is_in_no_stock_while_it_travels_and_keeps_its_age(self) -> None:
        item = next(one for one in self.lead.get("/goods?in_stock=true").json()["items"] if one["in_stock"] > 1)
        piece = self.lead.get(f"/goods/{item['id']}").json()["pieces"][0]
        self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "piece_id": piece["id"]})
        self.assertEqual(self.lead.get(f"/goods/{item['id']}").json()["in_stock"], item["in_stock"] - 1)
        row = self.going(self.there, kind="piece", subject=item["name"])
        self.assertEqual(self.there.send("POST", f"/stores/sends/{row['id']}/arrived", {}).status_code, 201)
        theirs = next(
            one for one in self.there.get(f"/goods?text={item['name']}").json()["items"] if one["name"] == item["name"]
        )
        arrived = self.there.get(f"/goods/{theirs['id']}").json()["pieces"]
        self.assertIn(
            (piece["arrived_on"], piece["last_volts"]), [(one["arrived_on"], one["last_volts"]) for one in arrived]
        )
        self.assertEqual(theirs["price_cents"], item["price_cents"])
        self.assertEqual(len(self.lead.get(f"/goods/{item['id']}").json()["pieces"]), item["in_stock"] - 1)

    def test_a_customer_is_known_there_too_and_forgetting_says_so(self) -> None:
        tag = self.taken_in(self.teo, customer_name="H. Vell", customer_phone="0555 0188")
        person = self.teo.get(f"/batteries/{tag}").json()["customer_id"]
        for _ in range(2):
            self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "customer_id": person})
            row = self.going(self.there, kind="customer", whose="H. Vell")
            self.there.send("POST", f"/stores/sends/{row['id']}/arrived", {})
        found = self.there.get("/customers?text=H. Vell").json()["people"]
        self.assertEqual(
            [(one["name"], one["phone"]) for one in found], [("H. Vell", "0555 0188")], "the same person once"
        )
        self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "customer_id": person})
        self.assertEqual(self.lead.get(f"/customers/{person}").json()["sent_to"], [catalogue.BRANCH])
        self.lead.send("POST", f"/customers/{person}/forget", {})
        told = self.sql("select body from transfers where customer_id = %s and state = 'on_the_way'", person)
        self.assertEqual(told, [({"customer": None},)], "who is forgotten does not travel on")


class TheHouse(Stores):
    def test_an_owner_opens_a_store_and_nobody_else_does(self) -> None:
        body = {"name": "Weir Lane South", "time_zone": "Europe/Berlin", "shares": ["rules", "catalogue", "terms"]}
        for client in (self.teo, self.lead):
            self.assertEqual(client.send("POST", "/house/stores", body).status_code, 403)
            self.assertEqual(client.get("/house/stores").status_code, 403)
        self.assertEqual(self.owner.send("POST", "/house/stores", body).status_code, 201)
        twice = self.owner.send("POST", "/house/stores", body)
        self.assertEqual((twice.status_code, twice.json()["errors"][0]["path"]), (422, "name"))
        alone = self.owner.send(
            "POST", "/house/stores", {"name": "By Itself", "time_zone": "Europe/Berlin", "shares": []}
        )
        self.assertEqual(alone.status_code, 201, "one that has nothing of another")
        south = self.number("Weir Lane South")
        owner = Client(app_on(self.url), OWNER_NAME)
        self.enter(owner, south)
        self.assertEqual(
            (owner.me["store"]["name"], owner.me["store"]["time_zone"]), ("Weir Lane South", "Europe/Berlin")
        )
        self.assertEqual(owner.get("/shelf").json(), [])
        self.assertEqual(owner.get("/batteries/173").status_code, 404, "another store's battery is not there")
        self.assertEqual(owner.get("/goods").json()["found"], self.owner.get("/goods").json()["found"])
        self.assertEqual(len(owner.get("/house/terms").json()), len(self.owner.get("/house/terms").json()))

        # what the first writes holds in the one that works by it, which writes none of it itself
        item = self.owner.get("/goods?text=Merlow Silver 48 680").json()["items"][0]
        whole = self.owner.get(f"/goods/{item['id']}").json()
        dearer = {"item": {**whole["item"], "price_cents": 12_345}, "based_on": whole["edition"]}
        self.assertIn(self.lead.send("PUT", f"/goods/{item['id']}", dearer).status_code, (200, 204))
        theirs = owner.get("/goods?text=Merlow Silver 48 680").json()["items"][0]
        self.assertEqual(theirs["price_cents"], 12_345)
        # under another name it is the same item there, with its stock and what was written of it
        named = {
            "item": {**whole["item"], "name": "Merlow Silver 48 long", "price_cents": 12_345},
            "based_on": whole["edition"] + 1,
        }
        self.assertIn(self.lead.send("PUT", f"/goods/{item['id']}", named).status_code, (200, 204))
        own = owner.get(f"/goods/{theirs['id']}").json()
        self.assertEqual(own["item"]["name"], "Merlow Silver 48 long")
        self.assertEqual(len(own["before"]), 3)
        self.assertEqual(owner.get("/goods").json()["found"], self.owner.get("/goods").json()["found"])
        refused = owner.send("PUT", f"/goods/{theirs['id']}", {"item": own["item"], "based_on": own["edition"]})
        self.assertEqual((refused.status_code, "come from Weir Lane Batteries" in refused.text), (409, True))
        rules = self.lead.get("/rules").json()["version"]
        changed = {"values": {"tester.replace_below_ratio": 0.7}, "reason": "a test", "based_on": rules}
        self.assertIn(self.lead.send("POST", "/rules", changed).status_code, (200, 201))
        self.assertEqual(owner.get("/rules").json()["rules"]["tester.replace_below_ratio"]["value"], 0.7)
        self.assertEqual(
            self.there.get("/rules").json()["rules"]["tester.replace_below_ratio"]["value"] == 0.7,
            False,
            "the branch has its own",
        )
        self.assertEqual(
            owner.send("POST", "/rules", {**changed, "based_on": owner.get("/rules").json()["version"]}).status_code,
            409,
        )
        # parted again it writes its own
        self.assertEqual(
            owner.send("PUT", "/house/stores/follows", {"rules": None, "catalogue": None, "terms": None}).status_code,
            200,
        )
        self.assertIn(
            owner.send("PUT", f"/goods/{theirs['id']}", {"item": own["item"], "based_on": own["edition"]}).status_code,
            (200, 204),
        )

    def test_side_by_side_counts_what_is_there(self) -> None:
        rows = {one["name"]: one for one in self.owner.get("/house/stores").json()["stores"]}
        main = rows["Weir Lane Batteries"]
        (in_house,) = self.sql(
            "select count(*) from batteries where store_id = 1 and place not in ('gone', 'on_the_way')"
        )[0]
        (pieces, worth) = self.sql(
            "select count(*), sum(i.price_cents) from stock_pieces p join catalogue_items i on i.id = p.item_id "
            "where p.store_id = 1 and p.sold_on is null and p.mark = ''"
        )[0]
        self.assertEqual((main["in_house"], main["pieces"], main["pieces_cents"]), (in_house, pieces, worth))
        self.assertGreater(main["watched"] + main["unsafe"], 0)
        self.assertEqual(
            (main["here"], rows[catalogue.BRANCH]["here"], rows[catalogue.BRANCH]["in_house"]),
            (True, False, rows[catalogue.BRANCH]["in_house"]),
        )

    def test_somebody_works_where_an_owner_lets_them_with_one_pin(self) -> None:
        noor = next(one for one in self.owner.get("/house").json()["people"] if one["name"] == TEO)
        teo = Client(app_on(self.url), TEO)
        self.assertEqual(self.enter(teo, self.branch).status_code, 404)
        give = {"store_id": self.branch, "works": True}
        self.assertEqual(self.lead.send("PUT", f"/house/people/{noor['id']}/stores", give).status_code, 403)
        self.assertEqual(self.owner.send("PUT", f"/house/people/{noor['id']}/stores", give).status_code, 200)
        self.assertEqual(self.enter(teo, self.branch).status_code, 201)
        self.assertEqual(teo.me["store"]["name"], catalogue.BRANCH)
        self.assertEqual(teo.get("/batteries/173").status_code, 404)
        written = {"name": TEO, "role": "counter", "works_here": True, "pin": "905172"}
        self.owner.send("PUT", f"/house/people/{noor['id']}", written)
        teo.http.app.state.signed_in.forget()  # type: ignore[attr-defined]  # as the announcement has every server do
        self.assertEqual(teo.get("/shelf").status_code, 401, "a new PIN ends what is open in every store")
        hashes = self.sql(
            "select count(distinct pin_hash), count(*) from staff where person_uuid = (select person_uuid from staff where id = %s) and pin_hash <> ''",
            noor["id"],
        )
        self.assertEqual(hashes, [(1, 2)])
        changes = self.there.get("/house/changes").json()
        self.assertTrue(any(one["subject"] == TEO for one in changes), "it stands in the other store's book too")
        self.assertEqual(
            self.owner.send("PUT", f"/house/people/{noor['id']}/stores", {**give, "works": False}).status_code, 200
        )
        self.owner.send("PUT", f"/house/people/{noor['id']}", {**written, "pin": PINS[TEO] if PINS[TEO] else None})
        me = next(one for one in self.owner.get("/house").json()["people"] if one["name"] == OWNER_NAME)
        last = self.owner.send("PUT", f"/house/people/{me['id']}/stores", {**give, "works": False})
        self.assertEqual(
            (last.status_code, last.json()["errors"][0]["path"]), (422, "store_id"), "no store without an owner"
        )


class NamesAndAuthors(Stores):
    def test_no_two_stores_have_one_name(self) -> None:
        house = self.lead.get("/house").json()
        found = self.lead.send(
            "PUT",
            "/house/shop",
            {"shop": {**house["shop"], "name": catalogue.BRANCH.upper()}, "based_on": house["edition"]},
        )
        self.assertEqual((found.status_code, found.json()["errors"][0]["path"]), (422, "shop.name"))

    def test_an_author_by_name_alone_cannot_be_taken_on(self) -> None:
        tag = self.taken_in(self.teo)
        self.read(self.teo, tag, kind="look", marks=[])
        self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag})
        row = self.going(self.there, kind="battery", tag=tag)
        self.there.send("POST", f"/stores/sends/{row['id']}/arrived", {})
        ((author,),) = self.sql(
            "select id from staff where store_id = %s and name = %s and pin_hash = ''", self.branch, TEO
        )
        back = {"name": TEO, "role": "counter", "works_here": True, "pin": None}
        self.assertEqual(self.there.send("PUT", f"/house/people/{author}", back).status_code, 404)


class NothingElseCrosses(Stores):
    def test_a_third_store_sees_nothing_of_what_is_between_two(self) -> None:
        self.sql("insert into stores (name, door, opening_hours, calendar_secret, temperature_unit, length_unit, currency, idle_minutes, next_tag) "
                 "values ('Third', 'third', '{}', 'third', 'C', 'mm', 'EUR', 10, 1)")  # fmt: skip
        (third,) = self.sql("select id from stores where name = 'Third'")[0]
        somebody = "(select person_uuid from staff where store_id = 1 and role = 'owner')"
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            connection.execute("select set_config('vane.store', %s, false)", (str(third),))
            for statement in (
                "select count(*) from transfers", "select count(*) from staff", f"select count(*) from side_by_side({somebody})",
            ):  # fmt: skip
                self.assertEqual(connection.execute(statement).fetchone(), (0,), statement)
            (owner,) = self.sql("select person_uuid from staff where store_id = 1 and role = 'owner'")[0]
            asked = "select count(*) from side_by_side(%s)", (owner,)
            self.assertEqual(connection.execute(*asked).fetchone(), (0,), "an owner of elsewhere is none here")
            self.assertEqual(connection.execute("select open_store('{}', %s)", (owner,)).fetchone(), (None,))
            self.assertEqual(
                connection.execute("select give_store(%s, %s, 1, true)", (owner, owner)).fetchone(), ("refused",)
            )
            self.assertEqual(connection.execute("select staff_elsewhere(%s, 1)", (owner,)).fetchone(), (None,))
            connection.execute("select settle_transfer(id) from generate_series(1, 50) id")
            connection.execute("select follow('catalogue', 1, 2, null)")
            with self.assertRaises(psycopg.errors.InsufficientPrivilege):
                connection.execute("update transfers set to_store_id = 1")
        self.assertEqual(self.sql("select count(*) from transfers where state = 'on_the_way'"), [(2,)])


class AtOnce(Stores):
    """Two people, two stores, the same moment: a battery stands in one store, once."""

    def together(self, *calls: Callable[[], Any]) -> list[int]:
        with ThreadPoolExecutor(len(calls)) as pool:
            return sorted(answer.status_code for answer in pool.map(lambda call: call(), calls))

    def sent(self) -> tuple[int, dict[str, Any]]:
        tag = self.taken_in(self.teo)
        self.assertEqual(
            self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag}).status_code, 201
        )
        return tag, self.going(self.there, kind="battery", tag=tag)

    def stands(self, serial: str = "ms 1-77") -> int:
        ((count,),) = self.sql("select count(*) from batteries where place <> 'gone' and serial = %s", serial)
        return int(count)

    def test_two_hands_say_it_is_here_and_it_is_here_once(self) -> None:
        for _ in range(4):
            before = self.stands()
            _, row = self.sent()
            path = f"/stores/sends/{row['id']}/arrived"
            found = self.together(*[lambda path=path: self.there.send("POST", path, {})] * 3)
            self.assertEqual(found, [201, 409, 409])
            self.assertEqual(self.stands(), before + 1)

    def test_called_back_and_arrived_at_the_same_moment_one_of_them_happened(self) -> None:
        for _ in range(6):
            before = self.stands()
            _, row = self.sent()
            found = self.together(
                lambda row=row: self.there.send("POST", f"/stores/sends/{row['id']}/arrived", {}),
                lambda row=row: self.teo.send("POST", f"/stores/sends/{row['id']}/called-back", {}),
            )
            self.assertEqual(found, [201, 409])
            self.assertEqual(self.stands(), before + 1)

    def test_sent_by_two_at_once_it_goes_once_and_sent_twice_by_one_too(self) -> None:
        tag = self.taken_in(self.teo)
        body = {"to_store_id": self.branch, "tag": tag}
        self.assertEqual(
            self.together(
                lambda: self.teo.send("POST", "/stores/sends", body),
                lambda: self.lead.send("POST", "/stores/sends", body),
            ),
            [201, 409],
        )
        other = {"to_store_id": self.branch, "tag": self.taken_in(self.teo)}
        name = str(uuid.uuid4())
        self.assertEqual(
            [self.teo.send("POST", "/stores/sends", other, name).status_code for _ in range(2)], [201, 201]
        )
        self.assertEqual(
            self.sql("select count(*) from transfers where tag = any(%s) and from_store_id = 1", [tag, other["tag"]]),
            [(2,)],
        )

    def test_what_is_read_while_it_is_sent_goes_with_it_or_is_refused(self) -> None:
        tag = self.taken_in(self.teo)
        self.read(self.teo, tag, kind="look", marks=[])
        reading = {
            "id": str(uuid.uuid4()),
            "kind": "rest_volts",
            "volts": 12.5,
            "taken_at": datetime.now(UTC).isoformat(),
        }
        found = self.together(
            lambda: self.teo.send("POST", f"/batteries/{tag}/readings", reading),
            lambda: self.lead.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag}),
        )
        ((body,),) = self.sql("select body from transfers where tag = %s and from_store_id = 1", tag)
        self.assertEqual(len(body["readings"]), 2 if found == [201, 201] else 1)


class OneAfterAnother(Stores):
    def test_a_battery_comes_home_again_under_another_tag_with_all_of_it(self) -> None:
        tag = self.taken_in(self.teo)
        self.read(self.teo, tag, kind="look", marks=[])
        self.read(self.teo, tag, kind="rest_volts", volts=12.4)
        for at, to, store in ((self.teo, self.there, self.branch), (self.there, self.teo, 1)):
            at.send("POST", "/stores/sends", {"to_store_id": store, "tag": tag})
            row = self.going(to, kind="battery", tag=tag, coming=True)
            tag = int(to.send("POST", f"/stores/sends/{row['id']}/arrived", {}).json()["tag"])
        home = self.teo.get(f"/batteries/{tag}").json()
        self.assertEqual(
            [(one["reading"]["kind"], one["who"]) for one in home["readings"]], [("look", TEO), ("rest_volts", TEO)]
        )
        self.assertEqual(
            self.sql("select count(*) from staff where name = %s and store_id = 1", TEO),
            [(1,)],
            "he is nobody else at home",
        )

    def test_a_claimed_one_stays_where_the_claim_is(self) -> None:
        tag = self.taken_in(self.teo, sold_on="2026-01-10")
        with psycopg.connect(self.url, autocommit=True) as connection:
            connection.execute(
                "insert into judgements (store_id, check_id, staff_id, rules_version_id, outcome, body) select store_id, id, opened_by, "
                "(select max(id) from rules_versions where store_id = 1), 'worn_out', '{}' from checks order by id desc limit 1"
            )
            connection.execute(
                "insert into claims (store_id, battery_id, judgement_id, staff_id, decision, credit_cents, body, serial) "
                "select 1, b.id, (select max(id) from judgements), (select min(id) from staff where store_id = 1), 'free', 0, '{}', '' "
                "from batteries b where b.store_id = 1 and b.tag = %s",
                (tag,),
            )
        found = self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag})
        self.assertEqual((found.status_code, "A claim is written for it" in found.text), (409, True))

    def test_terms_and_a_list_reach_the_store_that_works_by_them_and_no_other(self) -> None:
        body = {"name": "Follower", "time_zone": "Europe/Dublin", "shares": ["terms", "catalogue"]}
        self.owner.send("POST", "/house/stores", body)
        follower = self.owner_again()
        self.enter(follower, self.number("Follower"))
        line = next(one for one in self.lead.get("/house/terms").json() if one["line"] == "Merlow Silver")
        newest = line["editions"][0]
        written = {**newest["terms"], "free_months": 30, "holds_from": "2026-12-01", "based_on": newest["id"]}
        self.assertEqual(self.lead.send("POST", "/house/terms", written).status_code, 201)
        months = [
            next(one for one in client.get("/house/terms").json() if one["line"] == "Merlow Silver")["editions"][0][
                "terms"
            ]["free_months"]
            for client in (self.lead, follower)
        ]
        self.assertEqual(months, [30, 30])
        editions = "select count(*) from warranty_terms where store_id = %s"
        self.assertEqual(*(self.sql(editions, self.number(name)) for name in ("Weir Lane Batteries", "Follower")))
        self.assertEqual(self.sql(editions, self.branch), [(0,)], "who has its own gets none")
        refused = follower.send("POST", "/house/terms", {**written, "based_on": 0})
        self.assertEqual((refused.status_code, "warranty terms come from" in refused.text), (409, True))
        sent = follower.http.post("/api/imports", params={"kind": "items", "name": "l.csv"}, content=b"name;size\nx;48\n", headers={"Idempotency-Key": str(uuid.uuid4())})  # fmt: skip
        self.assertEqual((sent.status_code, "catalogue and prices come from" in sent.text), (409, True))

    def test_a_name_and_a_role_written_in_one_store_hold_in_the_other(self) -> None:
        noor = next(one for one in self.owner.get("/house").json()["people"] if one["name"] == NOOR)
        self.owner.send("PUT", f"/house/people/{noor['id']}/stores", {"store_id": self.branch, "works": True})
        self.owner.send(
            "PUT",
            f"/house/people/{noor['id']}",
            {"name": "Noor Halvard-Ek", "role": "lead", "works_here": True, "pin": None},
        )
        theirs = next(one for one in self.there.get("/house").json()["people"] if one["name"].startswith("Noor"))
        self.assertEqual((theirs["name"], theirs["role"], theirs["left_at"]), ("Noor Halvard-Ek", "lead", None))
        self.owner.send(
            "PUT",
            f"/house/people/{noor['id']}",
            {"name": "Noor Halvard-Ek", "role": "lead", "works_here": False, "pin": None},
        )
        theirs = next(one for one in self.there.get("/house").json()["people"] if one["name"].startswith("Noor"))
        self.assertIsNone(theirs["left_at"], "who leaves one store works on in the other")


class TheBook(Stores):
    """What the database itself holds to, whatever a server asks of it."""

    def refused(self, connection: Any, statement: str, *values: Any) -> None:
        with self.subTest(statement), self.assertRaises(psycopg.Error):
            connection.execute(statement, values)

    def test_nobody_writes_a_transfer_between_two_other_stores_nor_takes_one_away(self) -> None:
        (owner,) = self.sql("select id from staff where store_id = 1 and role = 'owner'")[0]
        put = (
            "insert into transfers (kind, from_store_id, to_store_id, from_name, to_name, subject, note, body, state, sent_at, sent_by, "
            "sent_by_name, settled_by_name) values ('customer', %s, %s, 'a', 'b', 'c', '', '{}', 'on_the_way', now(), %s, 'd', '')"
        )
        with psycopg.connect(as_app(self.url), autocommit=True) as connection:
            connection.execute("select set_config('vane.store', '7', false)")
            self.refused(connection, put, 1, self.branch, owner)
            connection.execute("select set_config('vane.store', '1', false)")
            self.refused(connection, put, 1, 1, owner)
            self.refused(connection, "delete from transfers")
            self.refused(connection, "update transfers set from_store_id = 2")
            self.refused(connection, "update transfers set kind = 'piece'")
            self.refused(connection, "update transfers set state = 'lost'")
            connection.execute(put, (1, self.branch, owner))

    def test_one_person_stands_once_in_a_store(self) -> None:
        (person,) = self.sql("select person_uuid from staff where store_id = 1 and role = 'owner'")[0]
        with psycopg.connect(self.url, autocommit=True) as connection:
            self.refused(
                connection,
                "insert into staff (store_id, name, role, pin_hash, person_uuid) values (1, 'x', 'lead', 'x', %s)",
                person,
            )
        ((everybody, different),) = self.sql(
            "select count(*), count(distinct person_uuid) from staff where store_id = 1"
        )
        self.assertEqual(everybody, different)

    def test_a_battery_is_on_one_way_alone(self) -> None:
        tag = self.taken_in(self.teo)
        self.teo.send("POST", "/stores/sends", {"to_store_id": self.branch, "tag": tag})
        with psycopg.connect(self.url, autocommit=True) as connection:
            self.refused(
                connection,
                "insert into transfers select (select max(id) + 1 from transfers), kind, from_store_id, to_store_id, from_name, to_name, "
                "battery_id, piece_id, customer_id, tag, subject, note, body, state, sent_at, sent_by, sent_by_name from transfers where tag = %s",
                tag,
            )
