import type { ComponentProps } from "react";
import { Slot as Place } from "@/in-process/slot";
import { Block } from "./blocks";

/** The place of a slot on a page of the shop, its blocks drawn by the shop's templates. */
export const Slot = (props: Omit<ComponentProps<typeof Place>, "block">) => <Place {...props} block={Block} />;
