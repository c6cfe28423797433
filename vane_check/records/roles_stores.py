"""What crosses from one store of the house into another, each a function of the tables' owner that asks who is where first."""

from ..core.goods.importing.item_columns import FOLLOWED

_HERE = "nullif(current_setting('vane.store', true), '')::bigint"
_IS_OWNER = f"exists (select from staff where store_id = {_HERE} and person_uuid = {{by}} and role = 'owner' and left_at is null)"

_HOUSE_STORES = f"""
    create function house_stores(person uuid) returns table (id bigint, name text, works boolean)
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
      select s.id, s.name::text,
        exists (select from staff w where w.store_id = s.id and w.person_uuid = person and w.left_at is null)
      from stores s where {_HERE} is not null order by s.id
    $$
"""
"""The stores of the house by name, and whether a person works in each. Nothing else of them is told."""

_OPEN_STORE = f"""
    create function open_store(told jsonb, by uuid) returns bigint language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    declare made bigint; here bigint := {_HERE};
    begin
      if not {_IS_OWNER.format(by="by")} then
        return null;
      end if;
      insert into stores (name, currency, temperature_unit, length_unit, time_zone, opening_hours, door, calendar_secret, idle_minutes,
                          session_hours, next_tag, demo, tax_name, tax_pct, tax_on_top, more_taxes, paper_size, paper_foot, language)
        select told->>'name', currency, temperature_unit, length_unit, told->>'time_zone', opening_hours, told->>'door',
               told->>'calendar_secret', idle_minutes, session_hours, 1, demo, tax_name, tax_pct, tax_on_top, more_taxes, paper_size, paper_foot, language
        from stores where id = here returning id into made;
      insert into staff (store_id, person_uuid, name, role, pin_hash)
        select made, person_uuid, name, role, pin_hash from staff where store_id = here and person_uuid = by;
      insert into rules_versions (store_id, version, made_at, reason, body)
        select made, version, now(), 'as in ' || (select name from stores where id = here), body
        from rules_versions where store_id = here order by id desc limit 1;
      insert into house_entries (store_id, written_at, what, subject, body)
        values (made, now(), 'opened', told->>'name', jsonb_build_object('before', jsonb_build_object(), 'after', jsonb_build_object('from', (select name from stores where id = here))));
      return made;
    end $$
"""
"""Another store, with units, money, tax and rules of the one its owner stands in, and that owner in it."""

_GIVE_STORE = f"""
    create function give_store(person uuid, by uuid, target bigint, works boolean) returns text
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    declare known staff; there staff;
    begin
      if not {_IS_OWNER.format(by="by")} or not exists (select from stores where id = target) then
        return 'refused';
      end if;
      perform pg_advisory_xact_lock(hashtextextended('house ' || target, 2));
      select * into known from staff where store_id = {_HERE} and person_uuid = person and pin_hash <> '';
      if not found then
        return 'nobody';
      end if;
      select * into there from staff where store_id = target and person_uuid = person;
      if found and (there.left_at is null) = works then
        return 'same';
      end if;
      if works then
        if exists (select from staff where store_id = target and lower(name) = lower(known.name) and person_uuid <> person and pin_hash <> '') then
          return 'name';
        end if;
        insert into staff (store_id, person_uuid, name, role, pin_hash) values (target, person, known.name, known.role, known.pin_hash)
          on conflict (store_id, person_uuid) do update set left_at = null, name = excluded.name, role = excluded.role, pin_hash = excluded.pin_hash;
      else
        if there.role = 'owner' and not exists (select from staff where store_id = target and person_uuid <> person and role = 'owner' and left_at is null) then
          return 'last';
        end if;
        update staff set left_at = now() where id = there.id;
        update sessions set ended_at = now() where staff_id = there.id and ended_at is null;
      end if;
      insert into house_entries (store_id, written_at, what, subject, body)
        values (target, now(), 'person', known.name, jsonb_build_object('before', jsonb_build_object('works_here', not works), 'after',
                jsonb_build_object('works_here', works, 'from', (select name from stores where id = {_HERE}))));
      perform pg_notify('vane_check', json_build_object('store_id', target, 'what', 'staff', 'tag', null)::text);
      return '';
    end $$
"""
"""Let somebody of this store work in another, or no longer. What it answers says why not."""

_SPREAD_PERSON = f"""
    create function spread_person(person uuid, new_pin boolean) returns void language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    declare known staff; one staff;
    begin
      select * into known from staff where store_id = {_HERE} and person_uuid = person and pin_hash <> '';
      if not found then
        return;
      end if;
      for one in select * from staff where person_uuid = person and store_id <> known.store_id loop
        update staff set name = known.name, role = known.role, pin_hash = case when pin_hash = '' then '' else known.pin_hash end where id = one.id;
        if new_pin then
          update sessions set ended_at = now() where staff_id = one.id and ended_at is null;
        end if;
        insert into house_entries (store_id, written_at, what, subject, body)
          values (one.store_id, now(), 'person', known.name, jsonb_build_object(
            'before', jsonb_build_object('name', one.name, 'role', one.role),
            'after', jsonb_build_object('name', known.name, 'role', known.role, 'from', (select name from stores where id = known.store_id))));
        perform pg_notify('vane_check', json_build_object('store_id', one.store_id, 'what', 'staff', 'tag', null)::text);
      end loop;
    end $$
"""
"""One person has one name, role and PIN: what was written of them here holds wherever they are known."""

_STAFF_ELSEWHERE = f"""
    create function staff_elsewhere(by uuid, target bigint) returns bigint
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
      select w.id from staff w where w.store_id = target and w.person_uuid = by and w.left_at is null
        and exists (select from staff h where h.store_id = {_HERE} and h.person_uuid = by and h.left_at is null)
    $$
"""
"""As whom somebody of this store works in another; null where they do not."""

_SETTLE = f"""
    create function settle_transfer(which bigint) returns void language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    declare t transfers;
    begin
      select * into t from transfers where id = which and to_store_id = {_HERE} and state = 'arrived';
      if not found then
        return;
      end if;
      if t.battery_id is not null then
        update batteries set place = 'gone', needs_hand_at = null where id = t.battery_id and store_id = t.from_store_id and place = 'on_the_way';
        insert into moves (store_id, battery_id, place, moved_at, staff_id) values (t.from_store_id, t.battery_id, 'gone', t.settled_at, t.sent_by);
      end if;
      if t.piece_id is not null then
        update stock_pieces set mark = 'sent', sold_on = (t.settled_at at time zone (select time_zone from stores where id = t.from_store_id))::date
          where id = t.piece_id and store_id = t.from_store_id and mark = 'on_the_way';
        insert into piece_entries (store_id, piece_id, what, done_at, staff_id, note)
          values (t.from_store_id, t.piece_id, 'arrived', t.settled_at, t.sent_by, t.to_name);
      end if;
    end $$
"""
"""What arrived here left the store it came from."""

_SIDE_BY_SIDE = f"""
    create function side_by_side(by uuid) returns table (id bigint, name text, in_house bigint, due bigint, unsafe bigint, watched bigint,
      taken_in bigint, claims bigint, sales bigint, sold_cents bigint, pieces bigint, pieces_cents bigint, coming bigint, going bigint,
      currency text, door text, rules_from text, catalogue_from text, terms_from text, people bigint)
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
      select s.id, s.name::text,
        (select count(*) from batteries b where b.store_id = s.id and b.place not in ('gone', 'on_the_way')),
        (select count(*) from batteries b where b.store_id = s.id and b.place not in ('gone', 'on_the_way') and b.needs_hand_at <= now()),
        coalesce(o.unsafe, 0), coalesce(o.watched, 0),
        (select count(*) from checks c where c.store_id = s.id and c.undone_at is null and c.opened_at > now() - interval '7 days'),
        (select count(*) from claims c where c.store_id = s.id and c.written_at > now() - interval '7 days'),
        (select count(*) from sales c where c.store_id = s.id and c.sold_at > now() - interval '7 days' and not exists (select from ways_back w where w.sale_id = c.id)),
        (select coalesce(sum(c.price_cents), 0)::bigint from sales c where c.store_id = s.id and c.sold_at > now() - interval '7 days'
          and coalesce(c.body ->> 'currency', s.currency) = s.currency and not exists (select from ways_back w where w.sale_id = c.id)),
        coalesce(g.pieces, 0), coalesce(g.cents, 0),
        (select count(*) from transfers t where t.to_store_id = s.id and t.state = 'on_the_way'),
        (select count(*) from transfers t where t.from_store_id = s.id and t.state = 'on_the_way'),
        s.currency::text, s.door::text,
        (select n.name::text from stores n where n.id = s.rules_from), (select n.name::text from stores n where n.id = s.catalogue_from),
        (select n.name::text from stores n where n.id = s.terms_from),
        (select count(*) from staff w where w.store_id = s.id and w.left_at is null)
      from stores s
      left join lateral (
        select count(*) filter (where j.outcome = 'unsafe') as unsafe, count(*) filter (where j.outcome = 'watch') as watched
        from batteries b
        join lateral (select c.id from checks c where c.battery_id = b.id order by c.id desc limit 1) c on true
        join lateral (select outcome from judgements where check_id = c.id order by id desc limit 1) j on true
        where b.store_id = s.id and b.place <> 'gone'
      ) o on true
      left join lateral (
        select sum(i.in_stock)::bigint as pieces, sum(i.in_stock * i.price_cents::bigint)::bigint as cents
        from catalogue_items i where i.store_id = s.id and i.in_stock > 0
      ) g on true
      where exists (select from staff w where w.store_id = s.id and w.person_uuid = by and w.role = 'owner' and w.left_at is null)
        and {_IS_OWNER.format(by="by")}
      order by s.id
    $$
"""
"""What an owner sees of every store they own: counts and sums, nobody's name."""

_ITEM_COLUMNS = ", ".join(FOLLOWED)
_SUPPLIER_COLUMNS = "lead_days, delivers_on, order_before, terms"
_TERMS_COLUMNS = "free_months, pro_rata_months, date_code_allowance_months, excluded_uses, reference, holds_from, written_at, item, body"


def _over(columns: str) -> str:
    return ", ".join(f"{name} = excluded.{name}" for name in columns.split(", "))


def _prefixed(alias: str, columns: str) -> str:
    return ", ".join(f"{alias}.{name}" for name in columns.split(", "))


_FOLLOW = f"""
    create function follow(what text, leader bigint, follower bigint, only_item bigint) returns void
    language plpgsql security definer set search_path = pg_catalog, public, pg_temp as $$
    declare f bigint; renamed bigint;
    begin
      if {_HERE} is distinct from leader and {_HERE} is distinct from follower then
        return;
      end if;
      for f in select s.id from stores s where (follower is null or s.id = follower)
          and case what when 'rules' then s.rules_from when 'catalogue' then s.catalogue_from else s.terms_from end = leader order by s.id loop
        if what = 'rules' then
          insert into rules_versions (store_id, version, made_at, reason, body)
            select f, n.told, r.made_at, r.reason, jsonb_set(r.body, array['version'], to_jsonb(n.told))
            from rules_versions r, lateral (select r.version || ', ' || (select name from stores where id = leader) as told) n
            where r.id = (select max(id) from rules_versions where store_id = leader)
            on conflict (store_id, version) do nothing;
        elsif what = 'terms' then
          insert into warranty_terms (store_id, line, {_TERMS_COLUMNS})
            select f, t.line, {_prefixed("t", _TERMS_COLUMNS)} from warranty_terms t
            where t.store_id = leader and not exists (
              select from warranty_terms o where o.store_id = f and o.line = t.line
                and ({_prefixed("o", _TERMS_COLUMNS)}) is not distinct from ({_prefixed("t", _TERMS_COLUMNS)}))
            order by t.id;
        else
          insert into suppliers (store_id, name, {_SUPPLIER_COLUMNS}, edition)
            select f, p.name, {_prefixed("p", _SUPPLIER_COLUMNS)}, 1 from suppliers p where p.store_id = leader
            on conflict (store_id, name) do update set {_over(_SUPPLIER_COLUMNS)}, edition = suppliers.edition + 1
            where ({_prefixed("suppliers", _SUPPLIER_COLUMNS)}) is distinct from ({_prefixed("excluded", _SUPPLIER_COLUMNS)});
          update catalogue_items o set name = i.name
            from catalogue_items i, lateral (select body ->> 'name' as name from item_entries where item_id = i.id and edition < i.edition order by id desc limit 1) was
            where i.id = only_item and i.store_id = leader and was.name <> i.name and o.store_id = f and o.name = was.name
              and not exists (select from catalogue_items t where t.store_id = f and t.name = i.name);
          get diagnostics renamed = row_count;
          with put as (
            insert into catalogue_items (store_id, {_ITEM_COLUMNS}, supplier_id)
              select f, {_prefixed("i", _ITEM_COLUMNS)}, p.id from catalogue_items i
              left join suppliers q on q.id = i.supplier_id left join suppliers p on p.store_id = f and p.name = q.name
              where i.store_id = leader and (only_item is null or i.id = only_item)
              on conflict (store_id, name) do update set {_over(_ITEM_COLUMNS)}, supplier_id = excluded.supplier_id, edition = catalogue_items.edition + 1
              where renamed > 0 or ({_prefixed("catalogue_items", _ITEM_COLUMNS)}) is distinct from ({_prefixed("excluded", _ITEM_COLUMNS)})
              returning id, name, edition
          )
          insert into item_entries (store_id, item_id, edition, written_at, body)
            select f, put.id, put.edition, now(), e.body from put
            join catalogue_items i on i.store_id = leader and i.name = put.name
            join lateral (select body - 'supplier_id' as body from item_entries where item_id = i.id and not stood order by id desc limit 1) e on true;
        end if;
        perform pg_notify('vane_check', json_build_object('store_id', f, 'what', case what when 'rules' then 'rules' else 'goods' end, 'tag', null)::text);
      end loop;
    end $$
"""
"""What one store wrote stands in those that work by it, in the same transaction: rules, terms, or the catalogue with its suppliers."""

_SERIAL_IN_HOUSE = f"""
    create function serial_in_house(key text) returns table (store text, is_here boolean, battery bigint, tag bigint, what text, at timestamptz, warranty jsonb)
    language sql stable security definer set search_path = pg_catalog, public, pg_temp as $$
      select s.name::text, x.store_id = {_HERE}, case when x.store_id = {_HERE} then x.battery end, case when x.store_id = {_HERE} then x.tag end, x.what, x.at, x.warranty
      from (
        select sa.store_id, b.id as battery, b.tag::bigint, case when sa.claim_id is null then 'sold' else 'given' end as what, sa.sold_at as at, sa.body -> 'warranty' as warranty
          from sales sa join batteries b on b.id = sa.battery_id where b.serial_key = key
            and not exists (select from ways_back w where w.sale_id = sa.id)
        union all
        select c.store_id, b.id, b.tag::bigint, 'claimed', c.written_at, null
          from claims c join batteries b on b.id = c.battery_id where c.serial_key = key
      ) x join stores s on s.id = x.store_id
      where {_HERE} is not null and key <> '' order by x.at desc limit 60
    $$
"""
"""What any store of the house did with a serial: sold, given under warranty, claimed; which store and when, and no customer."""

FUNCTIONS = {
    "serial_in_house(text)": _SERIAL_IN_HOUSE,
    "house_stores(uuid)": _HOUSE_STORES,
    "open_store(jsonb, uuid)": _OPEN_STORE,
    "give_store(uuid, uuid, bigint, boolean)": _GIVE_STORE,
    "spread_person(uuid, boolean)": _SPREAD_PERSON,
    "staff_elsewhere(uuid, bigint)": _STAFF_ELSEWHERE,
    "settle_transfer(bigint)": _SETTLE,
    "side_by_side(uuid)": _SIDE_BY_SIDE,
    "follow(text, bigint, bigint, bigint)": _FOLLOW,
}
