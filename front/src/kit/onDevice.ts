/** What lies on this device: a store of rows in the browser's own database. A browser that keeps nothing has none of them. */
import { openDB, type IDBPObjectStore } from "idb";

type Rows<Row> = Pick<IDBPObjectStore<unknown, [string], string, "readwrite">, "delete"> & {
  put: (row: Row) => Promise<IDBValidKey>;
};

export function storeOnDevice<Row>(database: string, name: string, keyPath: keyof Row & string) {
  const opened = openDB(database, 1, {
    upgrade: (made) => {
      made.createObjectStore(name, { keyPath });
    },
  }).catch(() => null);
  return {
    /** Every row; null where nothing can be kept. */
    all: async (): Promise<Row[] | null> => ((await opened)?.getAll(name) as Promise<Row[]> | undefined) ?? null,
    /** Changes in one transaction. Done when the disk has it; rejected where it has not. */
    change: async (
      act: (rows: Rows<Row>) => Promise<unknown>[],
      durability: IDBTransactionDurability = "default",
    ): Promise<void> => {
      const transaction = (await opened)?.transaction(name, "readwrite", { durability });
      if (!transaction) return;
      await Promise.all([...act(transaction.store as unknown as Rows<Row>), transaction.done]);
    },
  };
}
