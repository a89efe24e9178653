import { describe, expect, it } from "vitest";

import { exactText } from "../../domain/durations";
import {
  chaptersOf,
  fromChapters,
  fromHere,
  lengthOf,
  moved,
  onPicture,
  pinOf,
  readMoment,
  takeOut,
  tidy,
  toHere,
  withRoom,
} from "./kept";

const FILM = { duration_s: 100, first_picture_s: 0, picture_s: 0.04 };

describe("a moment", () => {
  it("is read in seconds, minutes, hours, pictures, and refused where it is none", () => {
    const said = ["83.5", "1:23.5", "0:01:23,5", "0:01:23:12", "#50", "x", "1:2:3:4:5", "-3", ""];
    expect(said.map((text) => readMoment(text, FILM))).toEqual([
      83.5,
      83.5,
      83.5,
      83.48,
      2,
      null,
      null,
      null,
      null,
    ]);
    expect(readMoment("#50", { ...FILM, picture_s: null })).toBeNull();
  });
  it("falls on the nearest picture and stays within the title", () => {
    const found = [10.01, 10.03, -4, 140].map((at) => onPicture(at, FILM));
    expect(found.map(exactText)).toEqual(["0:10", "0:10.04", "0:00", "1:40"]);
  });
  it("is any moment where pictures come when something changes, and the first picture may be late", () => {
    expect(onPicture(10.017, { ...FILM, picture_s: null })).toBe(10.017);
    expect(onPicture(-1, { ...FILM, picture_s: null })).toBe(0);
    expect(onPicture(0.02, { ...FILM, first_picture_s: 0.5 })).toBe(0.5);
    expect(exactText(onPicture(10.01, { ...FILM, first_picture_s: 0.01 }))).toBe("0:10.01");
  });
  it("has a number on the line where there is room", () => {
    expect(withRoom([0, 0.01, 0.05, 0.06, 0.99], 0.03)).toEqual([true, false, true, false, false]);
  });
});

describe("the kept range", () => {
  it("is as long as its stretches together", () => {
    const kept = [
      { from_s: 2, until_s: 5 },
      { from_s: 7.5, until_s: 8 },
    ];
    expect([lengthOf([]), lengthOf(kept)]).toEqual([0, 3.5]);
  });
  it("begins from here and ends to here, whatever was kept before", () => {
    expect(fromHere([], 10, 100)).toEqual([{ from_s: 10, until_s: 100 }]);
    const two = [
      { from_s: 10, until_s: 30 },
      { from_s: 50, until_s: 90 },
    ];
    expect(fromHere(two, 40, 100)).toEqual([{ from_s: 40, until_s: 90 }]);
    expect(toHere(two, 60, 100)).toEqual([two[0], { from_s: 50, until_s: 60 }]);
    expect(toHere([], 100, 100)).toEqual([]);
  });
  it("loses a piece in its middle, and never everything", () => {
    expect(takeOut([], 40, FILM)).toEqual([
      { from_s: 0, until_s: 40 },
      { from_s: 43, until_s: 100 },
    ]);
    const little = [{ from_s: 40, until_s: 42 }];
    expect(takeOut(little, 40, FILM)).toEqual(little);
  });
  it("moves an edge up to its neighbours and no further", () => {
    const two = [
      { from_s: 10, until_s: 30 },
      { from_s: 50, until_s: 90 },
    ];
    expect(moved(two, { index: 0, edge: "until_s" }, 70, FILM)[0]?.until_s).toBeCloseTo(49.96);
    expect(moved(two, { index: 1, edge: "from_s" }, 95, FILM)[1]?.from_s).toBeCloseTo(89.96);
    expect(moved(two, { index: 0, edge: "from_s" }, -5, FILM)[0]?.from_s).toBe(0);
  });
  it("is all of the title where nothing is left out, and then no pin", () => {
    expect(
      tidy(
        [
          { from_s: 0, until_s: 60 },
          { from_s: 60, until_s: 100 },
        ],
        100,
      ),
    ).toEqual([]);
    expect(pinOf([{ from_s: 0, until_s: 100 }], 100)).toBeNull();
    expect(
      pinOf(
        [
          { from_s: 50, until_s: 60 },
          { from_s: 1, until_s: 2.5 },
        ],
        100,
      ),
    ).toBe("1.000-2.500,50.000-60.000");
  });
});

it("is kept by chapters: one alone says from where, or to where, and both in whichever order", () => {
  const title = { chapters: [0, 30, 60, 80], duration_s: 100 };
  expect(fromChapters(2, null, title)).toEqual([{ from_s: 60, until_s: 100 }]);
  expect(fromChapters(null, 1, title)).toEqual([{ from_s: 0, until_s: 60 }]);
  expect(fromChapters(3, 1, title)).toEqual([{ from_s: 30, until_s: 100 }]);
  expect(fromChapters(1, 1, title)).toEqual([{ from_s: 30, until_s: 60 }]);
  expect(fromChapters(null, 3, title)).toEqual([]);
  for (const [first, last] of [
    [0, 1],
    [1, 1],
    [2, 3],
  ] as const)
    // prettier-ignore
    expect(chaptersOf(fromChapters(first, last, title), title)).toEqual([first, last]);
  expect(chaptersOf([{ from_s: 31, until_s: 80 }], title)).toEqual([null, 2]);
  expect(chaptersOf([], title)).toEqual([null, null]);
  const two = [{ from_s: 0, until_s: 30 }, { from_s: 60, until_s: 80 }]; // prettier-ignore
  expect(chaptersOf(two, title)).toEqual([null, null]);
});
