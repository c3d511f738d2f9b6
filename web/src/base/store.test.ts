import "fake-indexeddb/auto";
import { openDB } from "idb";
import { expect, it } from "vitest";
import { alone, onBlocked, store } from "./store";

it("says that an older page holds the store, and goes on once that is closed", async () => {
  const said: boolean[] = [];
  onBlocked((blocked) => said.push(blocked));
  // A page of before: its parcels lie there, and it does not make way.
  const old = await openDB("hurbin", 2, {
    upgrade: (db) => void db.createObjectStore("outbox", { keyPath: "id" }),
  });
  await old.put("outbox", { id: "of-before" });
  const opening = store();
  await expect.poll(() => said.at(-1)).toBe(true);
  old.close();
  const db = await opening;
  expect(said).toEqual([false, true, false]);
  expect(await db.getAllKeys("outbox")).toEqual(["of-before"]);
  expect([...db.objectStoreNames].toSorted()).toEqual(["cases", "drafts", "outbox", "refused"]);
});

it("lets work be done where a browser knows no locks", async () => {
  expect(await alone("x", async () => 7)).toBe(7);
});
