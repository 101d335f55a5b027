import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { api, Problem, type Job } from "./client";
import { follow, onEnded } from "./work";

const job = (status: Job["status"], id = "j1"): Job =>
  ({ id, status, tables: status === "done" ? ["sales"] : [] }) as unknown as Job;

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

test("a look that failed is tried again, and those who wait are told once", async () => {
  const told = vi.fn();
  const gone = onEnded(told);
  const looks = vi
    .spyOn(api, "job")
    .mockRejectedValueOnce(new Problem("The server does not answer.", ""))
    .mockResolvedValueOnce(job("reading"))
    .mockResolvedValueOnce(job("done"));
  follow(job("waiting"));
  await vi.advanceTimersByTimeAsync(5_000);
  expect(looks).toHaveBeenCalledTimes(3);
  expect(told.mock.calls).toEqual([[job("done")]]);
  gone();
});

test("a reading that the server does not know is not looked at again", async () => {
  const looks = vi.spyOn(api, "job").mockRejectedValue(new Problem("There is no such reading.", "", 404));
  follow(job("waiting", "j2"));
  await vi.advanceTimersByTimeAsync(60_000);
  expect(looks).toHaveBeenCalledTimes(1);
});
