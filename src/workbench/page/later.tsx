"use client";
import dynamic from "next/dynamic";
import { prepareLive } from "../parts/desk/later";
import { prepareParts } from "../parts/sentence/sentence";
import { prepareTexts } from "../parts/text-field/text-field";

/** What of the main screen is loaded when it is drawn for the first time, or in quiet moments before. */
export const VariantEditor = dynamic(() => import("./variant-editor").then((module) => module.VariantEditor));
export const PointingPanel = dynamic(() => import("./pointing-panel").then((module) => module.PointingPanel));
export const SlotSettings = dynamic(() => import("./slot-settings").then((module) => module.SlotSettings));
export const HeatDialog = dynamic(() => import("./heat-dialog").then((module) => module.HeatDialog), { ssr: false });

const loads: readonly (() => Promise<unknown>)[] = [
  prepareParts,
  () => import("./variant-editor"),
  prepareTexts,
  prepareLive,
  () => import("./slot-settings"),
  () => import("./pointing-panel"),
  () => import("./heat-dialog"),
];

/** Loads all of it beforehand, one after the other whenever nothing else is to do. @returns what ends it */
export function prepare(): () => void {
  let waiting = 0;
  const next = (index: number) => {
    const load = loads[index];
    if (!load) return;
    waiting = requestIdleCallback(
      () => {
        // What could not be loaded is asked for again when it is needed.
        void load()
          .catch(() => undefined)
          .then(() => next(index + 1));
      },
      { timeout: 5000 },
    );
  };
  next(0);
  return () => cancelIdleCallback(waiting);
}
