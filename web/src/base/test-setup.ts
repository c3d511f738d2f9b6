/** What waits for the page in a test waits for as long as a slow machine needs; only what hangs is ended. */
import { configure } from "@testing-library/react";
import { afterAll } from "vitest";

configure({ asyncUtilTimeout: 15_000 });

/** The channels that a file of tests opened: closed with it, so that what is over hears no other file's tabs. */
const opened: BroadcastChannel[] = [];
const Channel = globalThis.BroadcastChannel;
globalThis.BroadcastChannel = class extends Channel {
  constructor(name: string) {
    super(name);
    opened.push(this);
  }
};
afterAll(async () => {
  opened.forEach((channel) => channel.close());
  // What a hand left to rest and what was begun on the device come to their end before the page is taken away.
  if ("indexedDB" in globalThis) await new Promise((done) => setTimeout(done, 350));
});
