/** Rules over numbered conditions, and the bounds of their truth while only some conditions are known. */
import type { Group } from "../formats/rule";
import { NO, YES } from "../rules/truth";

export type Node = { kind: "condition"; index: number } | { kind: Group; nodes: Node[] } | { kind: "always" };

/** The truth of each condition, by its number: the least and the most that it can still be. */
export interface Bounds {
  low: Uint8Array;
  high: Uint8Array;
}

/** The least truth that a rule can still have. */
export function lowOf(node: Node, bounds: Bounds): number {
  switch (node.kind) {
    case "condition":
      return bounds.low[node.index] as number;
    case "always":
      return YES;
    case "all":
      return leastOf(node.nodes, bounds, lowOf);
    case "any":
      return mostOf(node.nodes, bounds, lowOf);
    case "none":
      return YES - mostOf(node.nodes, bounds, highOf);
  }
}
/** The most truth that a rule can still have. */
export function highOf(node: Node, bounds: Bounds): number {
  switch (node.kind) {
    case "condition":
      return bounds.high[node.index] as number;
    case "always":
      return YES;
    case "all":
      return leastOf(node.nodes, bounds, highOf);
    case "any":
      return mostOf(node.nodes, bounds, highOf);
    case "none":
      return YES - mostOf(node.nodes, bounds, lowOf);
  }
}
type Bound = (node: Node, bounds: Bounds) => number;
function leastOf(nodes: readonly Node[], bounds: Bounds, of: Bound): number {
  let least: number = YES;
  for (const inner of nodes) {
    const truth = of(inner, bounds);
    if (truth < least) least = truth;
    if (least === NO) break;
  }
  return least;
}
function mostOf(nodes: readonly Node[], bounds: Bounds, of: Bound): number {
  let most: number = NO;
  for (const inner of nodes) {
    const truth = of(inner, bounds);
    if (truth > most) most = truth;
    if (most === YES) break;
  }
  return most;
}

/** A rule's truth where every condition's is known. */
export function truthOf(node: Node, judge: (index: number) => number): number {
  switch (node.kind) {
    case "condition":
      return judge(node.index);
    case "always":
      return YES;
    case "all":
      return Math.min(YES, ...node.nodes.map((inner) => truthOf(inner, judge)));
    case "any":
      return Math.max(NO, ...node.nodes.map((inner) => truthOf(inner, judge)));
    case "none":
      return YES - Math.max(NO, ...node.nodes.map((inner) => truthOf(inner, judge)));
  }
}

/** Calls `visit` for every condition that a rule leans on. */
export function eachCondition(node: Node, visit: (index: number) => void): void {
  if (node.kind === "condition") visit(node.index);
  else if (node.kind !== "always") for (const inner of node.nodes) eachCondition(inner, visit);
}
