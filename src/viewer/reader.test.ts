import { expect, test } from "vitest";
import { Reader } from "./reader";

test("what a reader has set at a piece is given whole, and goes where it is nothing", () => {
  const reader = new Reader();
  reader.arrange("list", { sort: "-tonnes", page: "2", search: "" });
  reader.arrange("list", { page: undefined });
  expect(reader.tableOf("list")).toEqual({ sort: "-tonnes" });
  expect(reader.tableOf("other")).toEqual({});
  reader.look("map", { zoom: {}, fit: true });
  expect(reader.lookOf("map")).toEqual({ fit: true });
  expect([...reader.allLooks()]).toEqual([["map", { fit: true }]]);
});

test("entries of a legend are those given last; charts without any are not told of", () => {
  const reader = new Reader();
  const before = reader.offOf("split");
  reader.switchOff("split", ["coal", null]);
  expect([...before]).toEqual([]);
  expect([...reader.offOf("split")]).toEqual(["coal", null]);
  reader.switchOff("other", []);
  expect(reader.allOff().map(([piece]) => piece)).toEqual(["split"]);
});

test("a change waits at its control until it is taken", () => {
  const reader = new Reader();
  reader.stage("berth", { state: undefined });
  expect(reader.waitingAt("berth")).toEqual({ state: undefined });
  expect(reader.unstage("berth")).toEqual({ state: undefined });
  expect(reader.waitingAt("berth")).toBeUndefined();
});
