/** Chart.js as all charts here use it: their faces, colours by token, and no motion. */
import { locale } from "@/core/messages/t";
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from "chart.js";
import { useSyncExternalStore } from "react";
import { themeAttribute } from "../theme-attribute";

Chart.register(
  LinearScale,
  CategoryScale,
  PointElement,
  LineElement,
  LineController,
  BarElement,
  BarController,
  Tooltip,
  Legend,
);
Chart.defaults.font.family = '"Hanken Grotesk Variable", system-ui, sans-serif';
Chart.defaults.animation = false;

function followTheme(tell: () => void): () => void {
  const watch = new MutationObserver(tell);
  watch.observe(document.documentElement, { attributeFilter: [themeAttribute] });
  return () => watch.disconnect();
}
/** Which theme is on: a chart whose colours are read from it is drawn anew with another one. */
export const useThemeName = (): string =>
  useSyncExternalStore(
    followTheme,
    () => document.documentElement.getAttribute(themeAttribute) ?? "",
    () => "",
  );

const colours = 8;
/** The value of a token: canvases know no variables. */
export const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();
/** The colour of a variant by its place in its slot; -1, the fallback, is a pale grey. */
export const chartColour = (index: number): string =>
  index < 0 ? `${token("--quiet")}66` : token(`--v${(index % colours) + 1}`);

/** A day of the calendar, YYYY-MM-DD, as it stands under a chart: 18 Nov. */
export const dayLabel = (date: string): string =>
  new Date(`${date}T00:00Z`).toLocaleDateString(locale(), { day: "numeric", month: "short", timeZone: "UTC" });
