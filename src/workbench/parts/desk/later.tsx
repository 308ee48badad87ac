"use client";
import dynamic from "next/dynamic";

const live = () => import("./live-dialog").then((module) => module.LiveDialog);

/** The way to live, loaded when it is opened for the first time, or in a quiet moment before. */
export const LiveDialog = dynamic(live, { ssr: false });
export const prepareLive = (): Promise<unknown> => live();
