"""Finding a customer among 100,000 while typing, and one person's page: milliseconds at the API.

python -m bench.customers
"""

import statistics
import time

import psycopg

from tests.house import LEAD, Client, app_on, database

FILL = """
insert into customers (store_id, name, phone, plate, name_key, phone_key, plate_key)
select 1, n, p, l, lower(n), right(p, 7), l from (
  select initcap(substr(md5(i::text), 1, 5)) || ' ' || initcap(substr(md5((i * 7)::text), 1, 7)) as n,
         '0171' || lpad((i * 37 % 10000000)::text, 7, '0') as p, 'VK' || lpad((i % 100000)::text, 5, '0') as l
  from generate_series(1, 100000) i) made
"""


def main() -> None:
    """Print the median and the slowest of each way of asking."""
    url = database()
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(FILL)
        connection.execute("analyze customers")
    client = Client(app_on(url), LEAD)
    some = client.get("/customers", params={"text": "vk00042"}).json()["people"][0]["id"]
    asked = {
        "two letters": "/customers?text=ab", "a name's beginning": "/customers?text=abc1", "in the middle": "/customers?text=1f2a",
        "a phone": "/customers?text=0171%201234", "a plate": "/customers?text=vk-00042", "nobody": "/customers?text=qqzz",
        "a car": "/customers?text=tillet", "nothing typed": "/customers", "one person": f"/customers/{some}",
    }  # fmt: skip
    for name, path in asked.items():
        took = []
        for _ in range(25):
            began = time.perf_counter()
            answer = client.get(path)
            took.append((time.perf_counter() - began) * 1000)
            assert answer.status_code == 200
        print(f"{name:20} median {statistics.median(took):6.1f} ms, slowest {max(took):6.1f}")


if __name__ == "__main__":
    main()
