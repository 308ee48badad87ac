import { Fragment, type ReactNode } from "react";
import { compiledMessage } from "@/core/messages/t";

/** A message whose values are parts of the page: names in bold, links, buttons. `message` and values as in `t`. */
export function rich(message: string, values: Readonly<Record<string, ReactNode>>): ReactNode {
  return compiledMessage(message)
    .formatToParts(values)
    .map((part, index) => <Fragment key={index}>{part.value as ReactNode}</Fragment>);
}
