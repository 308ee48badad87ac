"use client";
import { useEffect, useState } from "react";
import { useDesk } from "../parts/desk/desk";
import { To } from "../parts/desk/site-address";

/** For whoever puts something live on a site whose tag nobody has heard from: visitors get it once the tag is in. */
export function NotHeard() {
  const { actions, lookedBy } = useDesk();
  const [silent, setSilent] = useState(false);
  useEffect(() => {
    if (lookedBy !== "tag") return;
    let stale = false;
    actions.heard().then(
      ({ last, served }) => !stale && setSilent(!last && !served),
      () => undefined,
    );
    return () => {
      stale = true;
    };
  }, [actions, lookedBy]);
  if (!silent) return null;
  return (
    <span className="unsure" role="status">
      Nothing was heard from the tag on this site’s pages yet: visitors get this once it is in.{" "}
      <To href="/connect">Connect</To>
    </span>
  );
}
