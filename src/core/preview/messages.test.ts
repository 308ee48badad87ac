import { describe, expect, it } from "vitest";
import { readFromPage, readToPage } from "./messages";

describe("messages of a page", () => {
  it.each([
    [{ mirada: "hello", version: 1, path: "/" }],
    [{ mirada: "ready", slots: ["a"], path: "/x?y=1", turn: 3 }],
    [{ mirada: "form", action: "/cart", fields: { sku: "a" } }],
    [{ mirada: "picture" }],
  ])("%j is one", (message) => expect(readFromPage(message)).toEqual(message));

  it.each([
    [undefined],
    ["ready"],
    [{ mirada: "launch" }],
    [{ mirada: "ready", slots: "a", path: "/", turn: 1 }],
    [{ mirada: "ready", slots: [], path: "https://elsewhere.example", turn: 1 }],
    [{ mirada: "slot", id: { toString: "x" } }],
    [{ mirada: "go", href: "/", more: 1 }],
    [{ mirada: "picture", url: "https://elsewhere.example/x.png" }],
    [{ mirada: "picture", url: "data:text/html,<script>" }],
  ])("%j is none, and is ignored", (message) => expect(readFromPage(message)).toBeUndefined());
});

describe("messages of the workbench", () => {
  it("carry a look, outlines or the wish for a picture, and nothing else", () => {
    expect(readToPage({ mirada: "look", pass: "x", path: "/", turn: 1 })).toBeDefined();
    expect(readToPage({ mirada: "marks", marks: null })).toBeDefined();
    expect(readToPage({ mirada: "marks", marks: { a: { label: "1", colour: "#000", selected: true } } })).toBeDefined();
    expect(readToPage({ mirada: "look", pass: 1, path: "/", turn: 1 })).toBeUndefined();
    expect(readToPage({ mirada: "eval", code: "1" })).toBeUndefined();
  });
});
