import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Job } from "./client";
import { send } from "./uploads";
import { follow, onEnded, sendAll } from "./work";

vi.mock("./uploads", () => ({ send: vi.fn() }));

const job = (status: Job["status"], id = "j1"): Job =>
  ({ id, status, tables: status === "done" ? ["sales"] : [] }) as unknown as Job;

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const says =
  (body: unknown, status = 200) =>
  () =>
    Promise.resolve(Response.json(body, { status }));

test("a look that failed is tried again, and those who wait are told once", async () => {
  const told = vi.fn();
  const gone = onEnded(told);
  const looks = vi
    .fn()
    .mockRejectedValueOnce(new TypeError("no network"))
    .mockImplementationOnce(says(job("reading")))
    .mockImplementationOnce(says(job("done")));
  vi.stubGlobal("fetch", looks);
  follow(job("waiting"), "j1", 3);
  await vi.advanceTimersByTimeAsync(5_000);
  expect(looks).toHaveBeenCalledTimes(3);
  expect(looks).toHaveBeenLastCalledWith("/api/v1/workspaces/3/jobs/j1", undefined);
  expect(told.mock.calls).toEqual([[job("done"), 3]]);
  gone();
});

test("a server that goes away just when a file has come does not lose its reading", async () => {
  const told = vi.fn();
  const gone = onEnded(told);
  const looks = vi
    .fn()
    .mockRejectedValueOnce(new TypeError("no network"))
    .mockRejectedValueOnce(new TypeError("no network"))
    .mockImplementationOnce(says(job("done", "j3")));
  vi.stubGlobal("fetch", looks);
  sendAll([new File(["a"], "sales.csv")], null, 3);
  vi.mocked(send).mock.calls[0]?.[3].onSent("j3");
  await vi.advanceTimersByTimeAsync(5_000);
  expect(told.mock.calls).toEqual([[job("done", "j3"), 3]]);
  gone();
});

test("a reading that the server does not know is not looked at again", async () => {
  const looks = vi.fn(says({ problem: "There is no such reading.", advice: "" }, 404));
  vi.stubGlobal("fetch", looks);
  follow(job("waiting", "j2"), "j2", 3);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(looks).toHaveBeenCalledTimes(1);
});
