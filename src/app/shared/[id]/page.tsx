import { t } from "@/core/messages/t";
import { sharedLens } from "@/server/shared";
import { headers } from "next/headers";
import { reachableFrom } from "@/core/visit/origins";
import { SharedLens } from "@/workbench/shared/shared-lens";

export const dynamic = "force-dynamic";

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { id } = await params;
  const lens = await sharedLens(id);
  if (!lens)
    return <p className="gone">{t("This link has expired, or never was one. Ask whoever sent it for another.")}</p>;
  const host = (await headers()).get("host") ?? "localhost";
  const origin = reachableFrom(lens.origin, new URL(`http://${host}`).hostname);
  return <SharedLens id={id} {...lens} origin={origin} />;
}
