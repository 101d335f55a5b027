import { describe, expect, it } from "vitest";
import { areAddressesOfPictures, arePictures, arranged, asCells, namePictures, pictureFinder } from "./data-rows";

describe("rows in order", () => {
  const rows = [
    ["b", 2],
    ["a10", null],
    ["a9", -1],
    [null, 2],
  ];
  it("goes by numbers within texts, with what is missing last either way", () => {
    expect(arranged(rows, 0, false)).toEqual([2, 1, 0, 3]);
    expect(arranged(rows, 0, true)).toEqual([0, 1, 2, 3]);
  });
  it("leaves equal rows as they were, and the row of totals at the end", () => {
    expect(arranged(rows, 1, true)).toEqual([0, 3, 2, 1]);
    expect(arranged(rows, 1, false, 0)).toEqual([2, 3, 1, 0]);
  });
});

describe("cells for a spreadsheet", () => {
  it("keeps numbers, and makes what would run as a formula harmless", () => {
    expect(
      asCells([
        ["=1+1", 1234.5, null],
        ['a "b"', true, "x\ty"],
      ]),
    ).toBe('\'=1+1\t1234.5\t\n"a ""b"""\ttrue\t"x\ty"');
  });
});

describe("pictures", () => {
  const picture = "data:image/png;base64,iVBORw0KGgo=";
  it("are data of their own in every cell; what lies elsewhere is not fetched", () => {
    expect(arePictures([picture, null, picture])).toBe(true);
    expect(arePictures([picture, "none"])).toBe(false);
    expect(arePictures(["https://x.test/a.png"])).toBe(false);
    expect(arePictures([null])).toBe(false);
  });
  it("addresses of pictures are told from other addresses", () => {
    expect(areAddressesOfPictures(["https://example.org/a.png", null, "http://example.org/b.JPG?w=80"])).toBe(true);
    expect(areAddressesOfPictures(["https://example.org/a.png", "https://example.org/"])).toBe(false);
    expect(areAddressesOfPictures([null])).toBe(false);
  });
  it("that were sent are found by what a cell names, in any folder and any capitals", () => {
    expect(namePictures([null, "photos/REX.jpg"])).toBe(true);
    expect(namePictures(["Rex", 3])).toBe(false);
    const pictureOf = pictureFinder(["Rex.JPG", "a b.png"]);
    expect(["photos/rex.jpg", "C:\\pets\\A B.png", "max.jpg"].map(pictureOf)).toEqual([
      "Rex.JPG",
      "a b.png",
      undefined,
    ]);
    expect(pictureOf("https://example.org/rex.jpg")).toBe(undefined);
  });
});
