"""A house a hundred times the size: 100,000 items, 200,000 checks, 400,000 judgements, made from the demo shop's own."""

import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psycopg

from vane_check.start.cluster import Cluster
from vane_check.start.command import prepare

QUICK = ("fsync=off", "synchronous_commit=off", "full_page_writes=off", "max_wal_size=4GB", "shared_buffers=512MB")
IN_HOUSE = 300


@contextmanager
def cluster(settings: tuple[str, ...] = QUICK) -> Iterator[Cluster]:
    """A PostgreSQL of the bench's own, with the demo shop, thrown away after."""
    import os

    root = os.geteuid() == 0
    folder = Path(tempfile.mkdtemp(prefix="vane-bench-", dir="/var/lib" if root else None))
    folder.chmod(0o755)
    found = Cluster(folder, settings)
    try:
        prepare(found.start())
        yield found
    finally:
        found.remove()


def build(
    url: str, items: int = 100_000, checks: int = 200_000, customers: int = 50_000, vehicles: int = 3_000
) -> None:
    """Fill the demo shop's database up to this size, as its owner. Two judgements to a check."""
    with psycopg.connect(url, autocommit=True) as connection:
        run = connection.execute
        run("set statement_timeout = 0")
        run(
            """
            insert into catalogue_items (store_id, line, name, group_code, same_as, length_mm, width_mm, height_mm, nominal_volts, positive_side, post, ledge,
                                         chemistry, cca_amps, rated_amps, rated_scale, capacity_ah_20h, reserve_minutes, vent_tube, price_cents, core_deposit_cents)
            select 1, 'Line ' || n % 400, 'Item ' || n, i.group_code, i.same_as, i.length_mm, i.width_mm, i.height_mm, i.nominal_volts, i.positive_side, i.post, i.ledge,
                   i.chemistry, i.cca_amps + (n % 41) * 5 - 100, i.cca_amps + (n % 41) * 5 - 100, 'CCA', i.capacity_ah_20h, i.reserve_minutes, i.vent_tube, i.price_cents + n % 5000, 1200
            from generate_series(1, %s) n
            join lateral (select * from catalogue_items where store_id = 1 and id = 1 + n %% 60) i on true
            """.replace("%s", "%(items)s").replace("n % ", "n %% "),
            {"items": items},
        )
        run(
            "insert into stock_pieces (store_id, item_id, arrived_on, last_volts) select 1, id, current_date - (id % 300)::int, 12.4 + (id % 40) / 100.0 from catalogue_items where id % 3 = 0"
        )
        run(
            "insert into vehicles (store_id, make, model, from_year, group_code, also_codes, min_cca_amps, chemistry, stop_start, vent_tube, no_agm, source) "
            "select 1, 'Make ' || n %% 60, 'Model ' || n, 2000 + n %% 25, v.group_code, v.also_codes, v.min_cca_amps, v.chemistry, v.stop_start, v.vent_tube, v.no_agm, v.source "
            "from generate_series(1, %(vehicles)s) n join lateral (select * from vehicles where id = 1 + n %% 30) v on true",
            {"vehicles": vehicles},
        )
        run(
            "insert into customers (store_id, name, phone, plate) select 1, 'Customer ' || md5(n::text), '0555 ' || lpad(n::text, 6, '0'), 'PL ' || upper(substr(md5(n::text), 1, 6)) from generate_series(1, %(customers)s) n",
            {"customers": customers},
        )
        first = run("select max(id) from batteries").fetchone()
        assert first is not None
        base = int(first[0])
        run(
            """
            insert into batteries (store_id, tag, place, line, nominal_volts, chemistry, rated_amps, rated_scale, group_code, serial, customer_id, vehicle_id, came_at)
            select 1, 10000 + n, case when n > %(checks)s - %(in_house)s then (array['counter','bench','on_charge','standing','ready'])[1 + n %% 5] else 'gone' end,
                   (array['Merlow Plain','Merlow Silver','Quellan Cycle','Quellan Mat','Tessaro Duty'])[1 + n %% 5], 12, 'flooded', 600, 'CCA', '47',
                   'SN' || md5(n::text), case when n %% 3 = 0 then 9 + n %% %(customers)s end, 1 + n %% 30, now() - (%(checks)s - n) * interval '10 minutes'
            from generate_series(1, %(checks)s) n
            """,
            {"checks": checks, "in_house": IN_HOUSE, "customers": customers - 20},
        )
        run(
            "insert into checks (store_id, battery_id, opened_at, opened_by, came_in, complaint, use, stop_start_car) "
            "select 1, id, came_at, 1, 'carried_in', 'slow_crank', 'private', false from batteries where id > %s order by id",
            (base,),
        )
        run(
            "insert into take_in_entries (store_id, check_id, written_at, staff_id, customer_id, body) "
            "select 1, c.id, c.opened_at, 1, b.customer_id, (select body from take_in_entries order by id limit 1) from checks c join batteries b on b.id = c.battery_id where b.id > %s",
            (base,),
        )
        run(
            "insert into readings (store_id, reading_uuid, check_id, kind, taken_at, staff_id, body) "
            "select 1, gen_random_uuid(), c.id, r.kind, c.opened_at, 1, r.body from checks c "
            "join lateral (select kind, body from readings where kind = 'rest_volts' order by id limit 1) r on true where c.battery_id > %s",
            (base,),
        )
        run(
            "insert into judgements (store_id, check_id, made_at, staff_id, rules_version_id, outcome, body) "
            "select 1, c.id, c.opened_at, 1, j.rules_version_id, j.outcome, j.body from checks c cross join generate_series(0, 1) twice "
            "join lateral (select * from judgements where id = 1 + (c.id + twice) %% 150) j on true where c.battery_id > %s",
            (base,),
        )
        run("update stores set next_tag = 20000 + %s where id = 1", (checks,))
        run("vacuum analyze")
