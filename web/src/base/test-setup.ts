/** What waits for the page in a test waits for as long as a slow machine needs; only what hangs is ended. */
import { configure } from "@testing-library/react";

configure({ asyncUtilTimeout: 15_000 });
